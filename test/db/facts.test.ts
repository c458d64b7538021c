import { chord, sine } from '../generators/signals';
import { beats, importAll, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());

describe('facts', () => {
  test('a correction outranks, stays, is recorded with its person, and can be taken back', async () => {
    const { lines } = await importAll(library, 'To correct', [['Groove 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number,
      tempo = async () => (await s.loops.findLoop(id, person))?.row.source.tempoBpm;
    expect(await tempo()).toBeCloseTo(120, 1);
    await s.words.correctFact(id, { attribute: 'tempo', value: 60 }, person);
    await s.words.correctFact(id, { attribute: 'tempo', value: 240 }, person);
    const detail = await s.loops.findLoop(id, person);
    expect(detail?.row.source).toMatchObject({ tempoBpm: 240, beats: 32 });
    expect(detail?.facts.filter((fact) => fact.source === 'person')).toMatchObject([{ person: 'Ada Quill', value: 240 }]);
    expect(detail?.chosen.tempo?.alternatives.some((each) => Math.abs(Number(each.value) - 120) < 1)).toBe(true);
    await s.words.withdrawCorrection(id, 'tempo', person);
    expect(await tempo()).toBeCloseTo(120, 1);
    expect(
      await s.db.selectRows("select 1 from facts where loop_id = $1 and source = 'person' and superseded_at is not null", [id]),
    ).toHaveLength(2);
  });
  test('the first bar can be moved inside the sound and nowhere else, and comes back where it was heard', async () => {
    const { lines } = await importAll(library, 'To move', [['Move 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number,
      first = async () => {
        const { row, firstBarSeconds: startSeconds } = (await s.loops.findLoop(id, person)) as NonNullable<
          Awaited<ReturnType<typeof s.loops.findLoop>>
        >;
        return [startSeconds, row.source.startFrame, row.source.beats];
      };
    const heard = await first();
    expect(heard).toEqual([0, 0, 16]);
    expect(await s.words.correctFact(id, { attribute: 'start', value: 0.5 }, person)).toEqual(expect.any(Number));
    expect(await first()).toEqual([0.5, 22050, 12]);
    expect(await s.words.correctFact(id, { attribute: 'start', value: 90 }, person)).toMatch(/inside the sound, which is 8\.00 s long/);
    expect(await first()).toEqual([0.5, 22050, 12]);
    await s.words.withdrawCorrection(id, 'start', person);
    expect(await first()).toEqual(heard);
  });
  test('what is in doubt is queued, the most doubtful first, and leaves when a person agrees; taken back, it returns', async () => {
    const { lines } = await importAll(library, 'In doubt', [
      ['Who Knows.wav', wav(beats(100, 8))],
      ['Some Thing.wav', wav(sine(220, 3))],
    ]);
    const ids = lines.map((line) => line.loopId as number);
    // Doubts made to order: the queue reads what is stored.
    await s.db.sequelize.query(
      'update loops set tempo_confidence = 0.9, key_confidence = 0.99, kind_confidence = 0.6, instrument_confidence = 0.31 where id = $1',
      { bind: [ids[0]] },
    );
    await s.db.sequelize.query(
      'update loops set tempo_confidence = null, key_confidence = 0.5, kind_confidence = 0.95, instrument_confidence = 0.86 where id = $1',
      { bind: [ids[1]] },
    );
    const mine = async (only: 'kind' | 'tempo' | null = null) =>
      (await s.doubts.findDoubts(person, { only, packId: null, from: 0 })).doubts
        .filter(({ row }) => ids.includes(row.id))
        .map(({ row, attribute }) => [ids.indexOf(row.id), attribute]);
    expect(await mine()).toEqual([
      [0, 'instrument'],
      [1, 'key'],
      [0, 'kind'],
    ]);
    expect(await mine('kind')).toEqual([[0, 'kind']]);
    expect(await mine('tempo')).toEqual([]);
    const before = await s.doubts.findDoubts(person, { only: null, packId: null, from: 0 }),
      asked = before.doubts.find(({ row, attribute }) => row.id === ids[0] && attribute === 'instrument');
    expect(before.counts.instrument).toBeGreaterThanOrEqual(1);
    const words = await s.words.agreeWithFacts([{ loopId: ids[0], attribute: 'instrument' }], person);
    // Said by a person it is nothing to agree with.
    expect(await s.words.agreeWithFacts([{ loopId: ids[0], attribute: 'instrument' }], person)).toEqual([]);
    expect((await mine()).some(([index, attribute]) => index === 0 && attribute === 'instrument')).toBe(false);
    const detail = await s.loops.findLoop(ids[0], person);
    expect(detail?.row.source.instrument).toBe(asked?.value);
    expect(detail?.facts.find((fact) => fact.source === 'person')).toMatchObject({
      attribute: 'instrument',
      value: asked?.value,
      person: 'Ada Quill',
    });
    await s.words.takeBackWords(words, person);
    const confidence = (await s.loops.findLoop(ids[0], person))?.chosen.instrument?.confidence ?? 1;
    expect((await mine()).some(([index, attribute]) => index === 0 && attribute === 'instrument')).toBe(confidence < 0.85);
  });
  test('a loop of an older analyser is heard again: facts are added, a person’s word stays', async () => {
    const { lines } = await importAll(library, 'Of old', [['Old Groove 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number;
    await s.words.correctFact(id, { attribute: 'instrument', value: 'shaker' }, person);
    await s.db.sequelize.query("update loops set analyser_version = 1, heard_by = '{}', detail = null, tempo_bpm = 77 where id = $1", {
      bind: [id],
    });
    const before = await s.db.selectRows('select 1 from facts where loop_id = $1', [id]);
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(1);
    for (let tries = 0; tries < 400; tries++) {
      const [{ version }] = await s.db.selectRows<{ version: number }>('select analyser_version as version from loops where id = $1', [id]);
      if (version > 1) break;
      await new Promise((next) => setTimeout(next, 50));
    }
    const detail = await s.loops.findLoop(id, person);
    expect(detail?.row.source).toMatchObject({ instrument: 'shaker', tempoBpm: expect.closeTo(120, 0) });
    expect(detail?.analysis?.readings.length).toBeGreaterThan(1);
    expect((await s.db.selectRows('select 1 from facts where loop_id = $1', [id])).length).toBeGreaterThan(before.length);
    expect(
      await s.db.selectRows("select 1 from facts where loop_id = $1 and source = 'person' and superseded_at is null", [id]),
    ).toHaveLength(1);
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(0);
    await s.reanalysis.analyseAgain(id);
  });
  test('after a change of some parts only these are heard again: facts of the others are the same rows', async () => {
    const { lines } = await importAll(library, 'In part', [['Part Groove 96 bpm Am.wav', wav(beats(96, 16))]]),
      id = lines[0].loopId as number,
      inForce = () =>
        s.db.selectRows<{ id: number; attribute: string; source: string }>(
          'select id, attribute, source from facts where loop_id = $1 and superseded_at is null order by id',
          [id],
        ),
      columns = async () =>
        (
          await s.db.selectRows<{ version: number; print: string; pulse: number; bars: unknown; levels: unknown; loudness: number }>(
            `select analyser_version as version, encode(fingerprint, 'hex') as print, jsonb_array_length(detail->'pulse') as pulse,
                    detail->'density' as bars, detail->'levels' as levels, loudness_lufs as loudness from loops where id = $1`,
            [id],
          )
        )[0];
    await s.words.correctFact(id, { attribute: 'key', value: 'unpitched' }, person);
    const [before, whole] = [await inForce(), await columns()];
    // Heard by an older key and older levels, whose numbers are wrong; the print is no longer what it was, and nobody asked for it.
    await s.db.sequelize.query(
      `update loops set heard_by = heard_by || '{"key": 0, "levels": 0, "of before": 7}', loudness_lufs = -70, fingerprint = '\\x01',
              detail = detail - 'levels' || '{"density": 99}' where id = $1`,
      { bind: [id] },
    );
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(1);
    await until(
      async () => (await s.db.selectRows(`select 1 from loops where id = $1 and (heard_by->>'levels')::int > 0`, [id])).length === 1,
    );
    const [after, now] = [await inForce(), await columns()],
      heardAnew = ({ attribute, source }: { attribute: string; source: string }) => attribute === 'key' && source === 'sound';
    // Bars are told by the key, and characters by the bars.
    const isRenewed = (fact: (typeof after)[number]) => heardAnew(fact) || (fact.attribute === 'character' && fact.source === 'sound');
    expect(after.filter((fact) => !isRenewed(fact))).toEqual(before.filter((fact) => !isRenewed(fact)));
    expect(before.filter(heardAnew)).toHaveLength(1);
    expect(after.filter(heardAnew)).toHaveLength(1);
    expect(after.find(heardAnew)?.id).not.toBe(before.find(heardAnew)?.id);
    expect(now).toEqual({ ...whole, print: '01' });
    const detail = await s.loops.findLoop(id, person);
    expect(detail?.row.source).toMatchObject({ tempoBpm: expect.closeTo(96, 0), pitched: false });
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(0);
  });
  test('bars and chords are told by the tempo that a person gave, and by the one that is heard when it is taken back', async () => {
    const chords = [
      [57, 60, 64],
      [53, 57, 60],
      [48, 52, 55],
      [55, 59, 62],
    ].flatMap((notes) => [...chord(notes, 2)]);
    const { lines } = await importAll(library, 'Held', [['Pad 120 bpm.wav', wav(Float32Array.from(chords))]]),
      id = lines[0].loopId as number,
      told = async () => {
        const found = await s.loops.findLoop(id, person);
        return [found?.row.source.beats, found?.analysis?.bars.length];
      };
    expect(await told()).toEqual([16, 4]);
    expect(await s.words.correctFact(id, { attribute: 'tempo', value: 60 }, person)).toEqual(expect.any(Number));
    await until(async () => (await told())[1] === 2);
    expect(await told()).toEqual([8, 2]);
    await s.words.withdrawCorrection(id, 'tempo', person);
    await until(async () => (await told())[1] === 4);
    expect(await told()).toEqual([16, 4]);
  });
  test('the database refuses what cannot be', async () => {
    const bad = async (sql: string) => {
      await expect(s.db.sequelize.query(sql)).rejects.toThrow();
    };
    await bad(
      "insert into facts (loop_id, attribute, value, confidence, source, analyser_version) values (1, 'tempo', '1', 2, 'sound', 1)",
    );
    await bad(
      "insert into facts (loop_id, attribute, value, confidence, source, analyser_version) values (1, 'tempo', '1', 1, 'person', 1)",
    );
    await bad("update loops set kind = 'one-shot' where tempo_bpm is not null");
    await bad('update loops set key_tonic = 3, key_mode = null');
    await bad("insert into projects (name, tempo_bpm, created_by) values ('x', 0, 1)");
    await bad("insert into people (name, password_hash) values ('ADA QUILL', 'x')");
  });
  test('a person’s beats give the tempo, a person’s tempo gives the beats', async () => {
    const { lines } = await importAll(library, 'Counted', [['Counted 100 bpm.wav', wav(beats(100, 16))]]),
      id = lines[0].loopId as number,
      both = async () => {
        const source = (await s.loops.findLoop(id, person))?.row.source;
        return [source?.tempoBpm, source?.beats];
      };
    await s.words.correctFact(id, { attribute: 'beats', value: 8 }, person);
    expect(await both()).toEqual([expect.closeTo(50, 1), 8]);
    // The newer word stands: beats said before the tempo are no longer meant.
    await s.words.correctFact(id, { attribute: 'tempo', value: 200 }, person);
    expect(await both()).toEqual([200, 32]);
  });
  test('agreeing makes what is shown a person’s word, which a later analysis does not touch', async () => {
    const { lines } = await importAll(library, 'Agreed', [['Agreed 92 bpm.wav', wav(beats(92, 16))]]),
      id = lines[0].loopId as number;
    await s.words.agreeWithFacts([{ loopId: id, attribute: 'tempo' }], person);
    const said = (await s.loops.findLoop(id, person))?.facts.filter(({ source }) => source === 'person');
    expect(said).toMatchObject([{ attribute: 'tempo', person: 'Ada Quill', value: expect.closeTo(92, 1) }]);
    const evidence = (await s.facts.activeEvidence([id])).get(id) ?? [];
    expect(evidence.filter(({ source }) => source === 'person')).toHaveLength(1);
    expect(evidence.some(({ source }) => source === 'sound')).toBe(true);
  });
  test('how a loop is always fitted is kept for everybody and recorded', async () => {
    const { lines } = await importAll(library, 'Handled', [['Handled 88 bpm.wav', wav(beats(88, 8))]]),
      id = lines[0].loopId as number;
    await s.fitDefaults.setFitDefaults(id, { stretchMode: 'tonal', tail: 'cut' }, person);
    expect((await s.loops.findLoop(id, person))?.row.source.fitDefaults).toEqual({ stretchMode: 'tonal', tail: 'cut' });
    // The end of the import is recorded by its job, before or after.
    const chosen = async () => (await s.people.listActivity(4)).filter(({ verb }) => verb === 'chose how to fit');
    expect(await chosen()).toMatchObject([{ person: 'Ada Quill', subjectId: id }]);
    await s.fitDefaults.setFitDefaults(999_999, { stretchMode: 'tonal' }, person);
    expect(await chosen()).toMatchObject([{ subjectId: id }]);
  });
  test('of a loop that is not there nothing is told', async () => {
    expect(await s.loops.findLoop(999_999, person)).toBeNull();
    expect(await s.notes.notesByBarOf(999_999)).toEqual([]);
    expect(await s.notes.notesByBarOf(0.5)).toEqual([]);
    await expect(s.words.correctFact(999_999, { attribute: 'start', value: 1 }, person)).rejects.toThrow();
  });
  test('a phrase may be given a tempo, a one-shot never has one', async () => {
    const { lines } = await importAll(library, 'To follow', [['Sung line.wav', wav(beats(100, 8))]]);
    const id = lines[0].loopId as number,
      source = async () => (await s.loops.findLoop(id, person))?.row.source;
    await s.words.correctFact(id, { attribute: 'kind', value: 'phrase' }, person);
    expect(await source()).toMatchObject({ kind: 'phrase', tempoBpm: null });
    await s.words.correctFact(id, { attribute: 'tempo', value: 96 }, person);
    expect(await source()).toMatchObject({ kind: 'phrase', tempoBpm: 96, beats: null });
    await s.words.correctFact(id, { attribute: 'kind', value: 'one-shot' }, person);
    expect(await source()).toMatchObject({ kind: 'one-shot', tempoBpm: null });
  });
});
