import { Op, type Transaction } from 'sequelize';
import type { Detail, Measures } from '~core/analysis/analyse-audio';
import { chooseFacts, type LoopFacts } from '~core/analysis/evidence/choose';
import { analyserVersion, type Attribute, type Candidate, type Evidence, type FactValues, type Source } from '~core/analysis/facts';
import { nameWords, setStem, titleFromFileName } from '~core/names/parse-name';
import { families, instrumentById } from '~core/theory/instruments';
import { keyName } from '~core/theory/key';
import { projectRateHz } from '~core/units/time';
import { selectRows, sequelize } from '../db/connection';
import { Fact, Favourite, Loop, LoopTag, Pack, Tag } from '../db/models/library';
import type { AnalyseResult } from '../jobs/pool/protocol';
import { announce } from '../http/events.server';
import { recordActivity } from './people.server';
import { findRowsById } from './search.server';
import type { LoopRow } from './loop-rows';

/** Columns of a loop that follow from its facts. */
function factColumns(facts: LoopFacts) {
  return {
    leadSeconds: facts.startSeconds,
    kind: facts.kind,
    tempoBpm: facts.tempoBpm,
    beats: facts.beats,
    bars: facts.bars,
    meter: facts.meter,
    keyTonic: facts.key?.tonic ?? null,
    keyMode: facts.key?.mode ?? null,
    pitched: facts.pitched,
    instrument: facts.instrument,
    family: facts.family,
    tempoConfidence: facts.chosen.tempo?.confidence ?? null,
    keyConfidence: facts.chosen.key?.confidence ?? null,
    kindConfidence: facts.chosen.kind?.confidence ?? null,
    instrumentConfidence: facts.chosen.instrument?.confidence ?? null,
  };
}

function measureColumns(measures: Measures) {
  return {
    loudnessLufs: measures.loudnessLufs,
    peakDbfs: measures.peakDbfs,
    tuningCents: measures.tuningCents,
    overview: Buffer.from(measures.overview),
    onsetFrames: [...measures.onsetFrames],
    beatFrames: (measures.detail?.beatMap?.beatSeconds ?? []).map((seconds) => Math.round(seconds * projectRateHz)),
    chroma: [...measures.chroma],
    detail: measures.detail,
    likeness: measures.likeness && Buffer.from(measures.likeness.buffer, measures.likeness.byteOffset, measures.likeness.byteLength),
    print: printBytes(measures.print),
  };
}

/** The words of a print, little-endian whatever the machine. */
function printBytes(print: Uint32Array): Buffer | null {
  if (print.length === 0) return null;
  const bytes = Buffer.alloc(print.length * 4);
  print.forEach((word, k) => bytes.writeUInt32LE(word, k * 4));
  return bytes;
}

function searchText(parts: {
  title: string;
  path: string;
  pack: string;
  vendor: string;
  facts: LoopFacts;
  tags: readonly string[];
}): string {
  const instrument = instrumentById(parts.facts.instrument),
    key = parts.facts.key
      ? keyName(parts.facts.key).replace('♯', 'sharp').replace('♭', 'flat')
      : parts.facts.pitched === false
        ? 'unpitched'
        : '';
  return [
    parts.title,
    nameWords(parts.path),
    parts.pack,
    parts.vendor,
    instrument?.label ?? '',
    parts.facts.family ? families[parts.facts.family].label : '',
    key,
    parts.facts.kind,
    ...parts.tags,
  ]
    .join(' ')
    .toLowerCase();
}

export interface NewLoop {
  readonly packId: number;
  readonly vendorPath: string;
  readonly fileSha256: string;
  readonly soundSha256: string;
  readonly personId: number;
  readonly result: Extract<AnalyseResult, { ok: true }>;
}

/** `twinTitle`: the same file is in the library already, under this title. */
export interface AddedLoop {
  readonly loopId: number;
  readonly twinTitle: string | null;
}

/** Adds a loop with its facts; the same file of the same pack a second time gives the loop that is there (jobs may run twice). */
export async function addLoop({ packId, vendorPath, fileSha256, soundSha256, personId, result }: NewLoop): Promise<AddedLoop> {
  const { measures, evidence } = result,
    fileName = vendorPath.split('/').at(-1) ?? vendorPath;
  const facts = chooseFacts(evidence, { ...measures, readings: measures.detail?.readings }),
    title = titleFromFileName(fileName),
    stem = setStem(fileName);
  return sequelize.transaction(async (transaction) => {
    const there = await Loop.findOne({ where: { packId, vendorPath }, transaction });
    if (there) return { loopId: there.id, twinTitle: null };
    // Two equal files may be analysed at the same time: one waits here, and then finds the other.
    await sequelize.query('select pg_advisory_xact_lock(hashtext($1))', { bind: [fileSha256], transaction });
    const twin = await Loop.findOne({ where: { fileSha256, archivedAt: null }, transaction });
    if (twin) return { loopId: twin.id, twinTitle: twin.title };
    const pack = await Pack.findByPk(packId, { transaction, rejectOnEmpty: true });
    const set = stem ? await findOrMakeSet(packId, stem, transaction) : null;
    const loop = await Loop.create(
      {
        packId,
        setId: set,
        media: result.media,
        title,
        fileName,
        vendorPath,
        fileSha256,
        fileFormat: result.format,
        soundSha256,
        soundFrames: result.soundFrames,
        lengthSeconds: measures.lengthSeconds,
        ...factColumns(facts),
        ...measureColumns(measures),
        analyserVersion,
        addedBy: personId,
        searchText: searchText({ title, path: vendorPath, pack: pack.name, vendor: pack.vendor, facts, tags: [] }),
      },
      { transaction },
    );
    await Fact.bulkCreate(
      evidence.filter((each) => each.candidates.length > 0).map((each) => factRow(loop.id, each, null)),
      { transaction },
    );
    return { loopId: loop.id, twinTitle: null };
  });
}

async function findOrMakeSet(packId: number, stem: string, transaction: Transaction): Promise<number> {
  const [rows] = await sequelize.query(
    'insert into sets (pack_id, stem) values ($1, $2) on conflict (pack_id, stem) do update set stem = excluded.stem returning id',
    { bind: [packId, stem], transaction },
  );
  return (rows as { id: number }[])[0].id;
}

/** An evidence as a row: the first candidate is the value, the rest are its alternatives. */
function factRow(loopId: number, { attribute, source, candidates, reason }: Evidence, personId: number | null) {
  const [first, ...rest] = candidates;
  return {
    loopId,
    attribute,
    value: first.value,
    confidence: Math.min(1, first.probability),
    source,
    alternatives: rest,
    reason,
    analyserVersion,
    personId,
  };
}

const toEvidence = (fact: Pick<Fact, 'attribute' | 'value' | 'confidence' | 'source' | 'alternatives' | 'reason'>): Evidence => ({
  attribute: fact.attribute,
  source: fact.source,
  candidates: [{ value: fact.value, probability: fact.confidence }, ...fact.alternatives] as Candidate<never>[],
  reason: fact.reason,
});

const measuredOf = ({ leadSeconds, lengthSeconds, detail }: Pick<Loop, 'leadSeconds' | 'lengthSeconds' | 'detail'>) => ({
  // The column follows a person's word; what was heard is in the readings.
  leadSeconds: detail?.readings[0]?.startSeconds ?? leadSeconds,
  lengthSeconds,
  readings: detail?.readings,
});

async function chooseAgain(loopId: number, transaction: Transaction): Promise<LoopFacts> {
  const loop = await Loop.findByPk(loopId, { transaction, rejectOnEmpty: true });
  const facts = await Fact.findAll({ where: { loopId, supersededAt: null }, order: [['id', 'asc']], transaction });
  const chosen = chooseFacts(facts.map(toEvidence), measuredOf(loop));
  const pack = await Pack.findByPk(loop.packId, { transaction, rejectOnEmpty: true });
  const tags = await selectRows<{ name: string }>(
    'select t.name::text as name from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = $1',
    [loopId],
  );
  await loop.update(
    {
      ...factColumns(chosen),
      searchText: searchText({
        title: loop.title,
        path: loop.vendorPath,
        pack: pack.name,
        vendor: pack.vendor,
        facts: chosen,
        tags: tags.map((tag) => tag.name),
      }),
    },
    { transaction },
  );
  return chosen;
}

/** Puts a new analysis in the place of the last one: its facts are superseded, never overwritten, and what persons said stays. */
export async function renewAnalysis(loopId: number, { evidence, measures }: Extract<AnalyseResult, { ok: true }>): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await Fact.update({ supersededAt: new Date() }, { where: { loopId, source: { [Op.ne]: 'person' }, supersededAt: null }, transaction });
    await Fact.bulkCreate(
      evidence.filter((each) => each.candidates.length > 0).map((each) => factRow(loopId, each, null)),
      { transaction },
    );
    await Loop.update(
      { ...measureColumns(measures), leadSeconds: measures.leadSeconds, analyserVersion },
      { where: { id: loopId }, transaction },
    );
    await chooseAgain(loopId, transaction);
  });
}

/** The evidence in force of several loops. */
export async function activeEvidence(loopIds: readonly number[]): Promise<Map<number, Evidence[]>> {
  const facts = await Fact.findAll({ where: { loopId: { [Op.in]: [...loopIds] }, supersededAt: null }, order: [['id', 'asc']] }),
    found = new Map<number, Evidence[]>();
  for (const fact of facts) found.set(fact.loopId, [...(found.get(fact.loopId) ?? []), toEvidence(fact)]);
  return found;
}

/** The facts of several loops with their confidence and rivals. */
export async function chosenFactsOf(loopIds: readonly number[]): Promise<Map<number, LoopFacts['chosen']>> {
  const loops = await Loop.findAll({
      where: { id: { [Op.in]: [...loopIds] } },
      attributes: ['id', 'leadSeconds', 'lengthSeconds', 'detail'],
    }),
    evidence = await activeEvidence(loopIds);
  return new Map(loops.map((loop) => [loop.id, chooseFacts(evidence.get(loop.id) ?? [], measuredOf(loop)).chosen]));
}

/** Puts what a loop's pack and set say of it in the place of what they said before. */
export async function replaceContext(loopId: number, evidence: readonly Evidence[]): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await Fact.update(
      { supersededAt: new Date() },
      { where: { loopId, source: { [Op.in]: ['set', 'pack'] }, supersededAt: null }, transaction },
    );
    await Fact.bulkCreate(
      evidence.map((each) => factRow(loopId, each, null)),
      { transaction },
    );
    await chooseAgain(loopId, transaction);
  });
}

export type Correction = { readonly [A in Attribute]: { readonly attribute: A; readonly value: FactValues[A] } }[Attribute];

/**
 * A person's word on a fact. It stands until the person's next, whatever later analyses say.
 * @returns what is wrong with it, in words; null when it is taken
 */
export async function correctFact(loopId: number, correction: Correction, personId: number): Promise<string | null> {
  if (correction.attribute === 'start') {
    const loop = await Loop.findByPk(loopId, { attributes: ['lengthSeconds'], rejectOnEmpty: true });
    if (correction.value > loop.lengthSeconds - 0.05)
      return `Bar 1 has to begin inside the sound, which is ${loop.lengthSeconds.toFixed(2)} s long.`;
  }
  await sequelize.transaction(async (transaction) => {
    await Fact.update(
      { supersededAt: new Date() },
      { where: { loopId, attribute: correction.attribute, source: 'person', supersededAt: null }, transaction },
    );
    if (correction.attribute === 'tempo')
      await Fact.update(
        { supersededAt: new Date() },
        { where: { loopId, attribute: 'beats', source: 'person', supersededAt: null }, transaction },
      );
    await Fact.create(
      factRow(
        loopId,
        {
          attribute: correction.attribute,
          source: 'person',
          candidates: [{ value: correction.value as never, probability: 1 }],
          reason: 'corrected by hand',
        },
        personId,
      ),
      { transaction },
    );
    await chooseAgain(loopId, transaction);
  });
  await recordActivity(personId, 'corrected', 'loop', loopId, correction);
  await announce({ kind: 'library', id: loopId });
  return null;
}

/** Makes a fact as it stands a person's word; nothing for what has no value. */
export async function agreeWithFact(loopId: number, attribute: Attribute, personId: number): Promise<void> {
  const value = (await chosenFactsOf([loopId])).get(loopId)?.[attribute]?.value;
  if (value !== undefined) await correctFact(loopId, { attribute, value } as Correction, personId);
}

/** Takes a person's correction back, so that the detectors speak again. */
export async function withdrawCorrection(loopId: number, attribute: Attribute, personId: number): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await Fact.update({ supersededAt: new Date() }, { where: { loopId, attribute, source: 'person', supersededAt: null }, transaction });
    await chooseAgain(loopId, transaction);
  });
  await recordActivity(personId, 'withdrew a correction of', 'loop', loopId, { attribute });
  await announce({ kind: 'library', id: loopId });
}

export interface FactLine {
  readonly attribute: Attribute;
  readonly value: unknown;
  readonly confidence: number;
  readonly source: Source;
  readonly alternatives: readonly Candidate[];
  readonly reason: string;
  readonly person: string | null;
  readonly at: string;
}
export interface LoopDetail {
  readonly row: LoopRow;
  readonly vendorPath: string;
  readonly fileFormat: string;
  readonly fileSha: string;
  readonly tuningCents: number | null;
  readonly chroma: readonly number[];
  readonly analysis: Detail | null;
  /** Where bar 1 begins in the file. */
  readonly startSeconds: number;
  readonly chosen: LoopFacts['chosen'];
  readonly facts: readonly FactLine[];
  readonly tags: readonly string[];
  readonly siblings: readonly { readonly id: number; readonly title: string }[];
  readonly usedIn: readonly { readonly id: number; readonly name: string }[];
  readonly licence: string;
  readonly archived: boolean;
}

/** Everything about one loop; null when there is none. */
export async function findLoop(loopId: number, personId: number): Promise<LoopDetail | null> {
  const [row] = await findRowsById([loopId], personId);
  const loop = await Loop.findByPk(loopId);
  if (!row || !loop) return null;
  const facts = await selectRows<Omit<FactLine, 'at'> & { at: Date }>(
    'select f.attribute, f.value, f.confidence, f.source, f.alternatives, f.reason, p.name::text as person, f.created_at as at from facts f left join people p on p.id = f.person_id where f.loop_id = $1 and f.superseded_at is null order by f.id',
    [loopId],
  );
  const [tags, siblings, usedIn, pack] = await Promise.all([
    selectRows<{ name: string }>(
      'select t.name::text as name from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = $1 order by t.name',
      [loopId],
    ),
    loop.setId
      ? selectRows<{ id: number; title: string }>(
          'select id, title from loops where set_id = $1 and id <> $2 and archived_at is null order by title',
          [loop.setId, loopId],
        )
      : [],
    selectRows<{ id: number; name: string }>(
      'select distinct p.id, p.name from clips c join projects p on p.id = c.project_id where c.loop_id = $1 and p.archived_at is null',
      [loopId],
    ),
    Pack.findByPk(loop.packId),
  ]);
  const { chosen } = chooseFacts(facts.map(toEvidence), measuredOf(loop));
  return {
    row,
    vendorPath: loop.vendorPath,
    fileFormat: loop.fileFormat,
    fileSha: loop.fileSha256,
    tuningCents: loop.tuningCents,
    chroma: loop.chroma,
    analysis: loop.detail,
    startSeconds: loop.leadSeconds,
    chosen,
    facts: facts.map((fact) => ({ ...fact, at: fact.at.toISOString() })),
    tags: tags.map((tag) => tag.name),
    siblings,
    usedIn,
    licence: pack?.licence ?? '',
    archived: loop.archivedAt !== null,
  };
}

export async function setFavourite(personId: number, loopId: number, wanted: boolean): Promise<void> {
  if (wanted)
    await sequelize.query('insert into favourites (person_id, loop_id) values ($1, $2) on conflict do nothing', {
      bind: [personId, loopId],
    });
  else await Favourite.destroy({ where: { personId, loopId } });
}

/** Archives loops, or brings them back. Nothing is deleted: projects that use them go on sounding. */
export async function archiveLoops(ids: readonly number[], archived: boolean, personId: number): Promise<void> {
  await Loop.update({ archivedAt: archived ? new Date() : null }, { where: { id: { [Op.in]: [...ids] } } });
  for (const id of ids) await recordActivity(personId, archived ? 'archived' : 'restored', 'loop', id);
  await announce({ kind: 'library', id: 0 });
}

/** Adds a tag to a loop, making the tag when it is new; or takes it away. */
export async function setTag(loopId: number, name: string, wanted: boolean, personId: number): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    const [tag] = await Tag.findOrCreate({ where: { name }, transaction });
    if (wanted)
      await sequelize.query('insert into loop_tags (loop_id, tag_id, person_id) values ($1, $2, $3) on conflict do nothing', {
        bind: [loopId, tag.id, personId],
        transaction,
      });
    else await LoopTag.destroy({ where: { loopId, tagId: tag.id }, transaction });
  });
  await sequelize.transaction((transaction) => chooseAgain(loopId, transaction));
}
