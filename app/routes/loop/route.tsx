import { useState } from 'react';
import { data, useNavigate } from 'react-router';
import type { Attribute } from '~core/analysis/facts';
import { useRenewal } from '~/ui/use-renewal';
import { useSend } from '~/ui/use-send';
import { RoomLink } from '~/ui/room-link';
import { Download, Pause, Play, Star } from 'lucide-react';
import { toast } from '~/ui/toast';
import { loopKinds } from '~core/analysis/attributes/loop-kinds';
import { beatMapHolds } from '~core/analysis/rhythm/beat-map';
import { describeFit } from '~core/arrangement/fit-request';
import { fitHeard } from '~core/arrangement/place';
import type { FitDefaults } from '~core/arrangement/fit-settings';
import { beatsToSeconds } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api, projectFromLoop, putOrDelete } from '~/ui/api';
import { ask, askOrTell, withForm, type Fields } from '~/ui/ask';
import { factLabel } from '~/ui/fact-words';
import { opinions } from '~/ui/opinions';
import { hearAnew } from '~/ui/edit-many';
import { FamilyMark } from '~/ui/family-mark';
import { secondsText, signed } from '~/ui/format';
import { useLive } from '~/ui/live';
import { usePlace } from '~/ui/place';
import { MadeOf } from '~/ui/sheet/made-of';
import { useProject } from '~/ui/project-store';
import { idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import type { LoopDetail } from '~contracts/loop-detail';
import { findLoop } from '~server/services/loops.server';
import type { Route } from './+types/route';
import { ChromaChart } from './chroma-chart';
import { CheckByEar } from '~/ui/ear/check-by-ear';
import { FactTable } from './fact-table';
import { FitDefaultsPanel } from './fit-defaults-panel';
import { Heard } from './heard/heard';
import { RhythmWave } from './heard/rhythm-wave';
import { Rated } from './rated';
import { Tags } from './tags';
import { Title } from './title';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.detail.row.title ?? 'Loop'} · Garnetfinch` }];

export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    detail = await findLoop(idParam(params.loopId), person.id);
  if (!detail) throw data('There is no loop with that number.', { status: 404 });
  return { detail };
}

/** The beats of a wandering player, as long as the reading that they were heard in is the one that holds. */
function beatMapFor({ analysis, row: { source }, firstBarSeconds }: LoopDetail): readonly number[] | null {
  const map = analysis?.beatMap?.beatSeconds;
  return map && beatMapHolds(map, { ...source, firstBarSeconds }) ? map : null;
}

/** The fields of a form that says nothing of what is left open. */
const textOf = (fitDefaults: FitDefaults): Record<string, string> =>
  Object.fromEntries(Object.entries(fitDefaults).map(([name, value]) => [name, String(value)]));

/** Everything about one loop: what is known, how surely, and who or what said so. */
export default function LoopPage({ loaderData: { detail } }: Route.ComponentProps) {
  const { row } = detail,
    engine = useEngine(),
    place = usePlace(),
    navigate = useNavigate(),
    project = useProject((state) => state.project);
  const renew = useRenewal();
  useLive('library', ({ loopIds }) => loopIds?.includes(row.id) && void renew());
  const sounding = useEngineState((state) => state.candidate?.row.id === row.id);
  const [wrong, setWrong] = useState<string | null>(null),
    send = useSend(),
    setArchived = (isArchived: boolean) => send(api.archivedLoops, putOrDelete(isArchived), { loopId: row.id });
  /** What is refused is told beside the facts. */
  const sayFact = async (attribute: Attribute, method: 'put' | 'delete', fields: Fields = {}) => {
    const said = await ask<{ words: readonly number[] }>(api.fact(row.id, attribute), withForm(method, fields));
    setWrong(said.ok ? null : said.wrong);
    if (!said.ok) return;
    void renew();
    const body = new URLSearchParams(said.answer.words.map((word) => ['word', String(word)]));
    if (method === 'delete')
      toast(`${factLabel(attribute)}: what was heard holds again.`, {
        action: { label: 'Undo', onClick: () => void askOrTell(api.words, { method: 'put', body }).then(renew) },
      });
  };
  const startProject = async () => {
    const id = await projectFromLoop(row.id);
    if (id === null) toast.error('The project could not be made. Please try again.');
    else void navigate(`/projects/${id}`);
  };
  const archive = async () => {
    if (await setArchived(true))
      toast(`Archived “${row.title}”. Projects that use it go on sounding.`, {
        action: { label: 'Undo', onClick: () => void setArchived(false) },
      });
  };
  return (
    <div className="mx-auto max-w-6xl p-5">
      <header className="flex items-center gap-3">
        <button
          className="btn btn-primary btn-square"
          aria-label={sounding ? 'Silence' : 'Hear it'}
          onClick={() => engine.audition.toggle(row)}
        >
          {sounding ? <Pause className="size-5" fill="currentColor" /> : <Play className="size-5" fill="currentColor" />}
        </button>
        <FamilyMark family={row.source.family} />
        <div className="min-w-0 flex-1">
          <Title key={row.id} loopId={row.id} title={row.title} />
          <p className="quiet truncate">
            {detail.vendorPath} · {detail.fileFormat.toUpperCase()} · from{' '}
            <RoomLink to={`/packs/${row.packId}`} className="link">
              {row.packName}
            </RoomLink>
            {row.vendor && `, ${row.vendor}`} · {detail.licence || 'licence not stated'}
            {detail.origin && (
              <>
                {' · by '}
                {detail.origin.author},{' '}
                <a href={detail.origin.pageUrl} target="_blank" rel="noreferrer" className="link">
                  its page on {detail.origin.sourceName}
                </a>
              </>
            )}
          </p>
        </div>
        {detail.archived && <span className="badge badge-warning">archived</span>}
        <button
          className="btn btn-sm btn-square"
          aria-label="Favourite"
          aria-pressed={row.favourite}
          onClick={() => void opinions.favourite(row.id, !row.favourite).then(renew)}
        >
          <Star className="size-4" fill={row.favourite ? 'var(--color-accent)' : 'none'} />
        </button>
        <button className="btn btn-sm" onClick={() => place({ row })}>
          Place …
        </button>
      </header>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button className="btn btn-sm" onClick={() => void startProject()}>
          Start a project from it
        </button>
        <a
          className="btn btn-sm btn-square"
          href={`/media/file/${row.id}`}
          aria-label="Download the vendor’s file"
          title="Download the vendor’s file"
        >
          <Download className="size-4" />
        </a>
        {row.source.media === 'audio' && (
          <RoomLink className="btn btn-sm" to={`/workbench/${row.id}`}>
            On the workbench
          </RoomLink>
        )}
        <RoomLink className="btn btn-sm" to={`/?near=like:${row.id}:1-0-0&sort=likeness&dir=desc`}>
          More like this
        </RoomLink>
        <RoomLink className="btn btn-sm" to={`/?near=with:${row.id}&sort=fit&dir=desc`}>
          What goes with it
        </RoomLink>
        <button
          className="btn btn-sm"
          onClick={() => void hearAnew({ ids: [row.id] })}
          title="Analyse its file again; what people said stays"
        >
          Listen again
        </button>
        {detail.archived ? (
          <button className="btn btn-sm" onClick={() => void setArchived(false)}>
            Bring back
          </button>
        ) : (
          <button className="btn btn-ghost btn-sm" onClick={() => void archive()}>
            Archive
          </button>
        )}
      </div>
      <div className="panel mt-4 p-3">
        <RhythmWave
          overview={row.overview}
          lengthSeconds={row.lengthSeconds}
          startSeconds={detail.firstBarSeconds}
          beatSeconds={row.source.tempoBpm === null || row.source.beats === null ? null : beatsToSeconds(1, row.source.tempoBpm)}
          beats={row.source.beats ?? 0}
          barBeats={row.source.barBeats}
          beatMap={beatMapFor(detail)}
          hits={detail.analysis?.hits}
        />
        <p className="quiet mt-2 flex flex-wrap gap-x-5">
          <span>{loopKinds[row.source.kind]}</span>
          <span>{secondsText(row.lengthSeconds)}</span>
          {row.source.loudnessLufs !== null && <span>{row.source.loudnessLufs.toFixed(1).replace('-', '−')} LUFS</span>}
          {row.peakDbfs !== null && <span>peak {row.peakDbfs.toFixed(1).replace('-', '−')} dBFS</span>}
          {detail.tuningCents !== null && row.source.pitched && <span>tuning {signed(detail.tuningCents)} cents</span>}
          {project && (
            <span>
              in “{project.name}”: {describeFit(fitHeard(row.source, project))}
            </span>
          )}
          <span>added by {row.addedBy}</span>
        </p>
      </div>
      <div className="mt-5 grid gap-6 lg:grid-cols-[1fr_19rem]">
        <FactTable
          detail={detail}
          onCorrect={(attribute, value) => void sayFact(attribute, 'put', { value })}
          onWithdraw={(attribute) => void sayFact(attribute, 'delete')}
          error={wrong}
        />
        <aside className="flex flex-col gap-5">
          {row.source.pitched && !detail.analysis && (
            <section>
              <h2>Notes in it</h2>
              <ChromaChart chroma={detail.chroma} musicKey={row.source.key} />
            </section>
          )}
          {row.source.media === 'audio' && row.source.kind !== 'one-shot' && (
            <FitDefaultsPanel row={row} onChange={(fitDefaults) => void send(api.fitDefaults(row.id), 'put', textOf(fitDefaults))} />
          )}
          <Tags
            tags={detail.tags}
            onAdd={(value) => void send(api.tag(row.id, value), 'put')}
            onRemove={(value) => void send(api.tag(row.id, value), 'delete')}
          />
          <Rated
            key={`${row.id} ${row.note}`}
            row={row}
            ratings={detail.ratings}
            onStars={(stars) => void opinions.stars(row.id, stars).then(renew)}
            onNote={(note) => void opinions.note(row.id, note).then(renew)}
          />
          {detail.made && <MadeOf made={detail.made} />}
          {detail.siblings.length > 0 && (
            <section>
              <h2>Others of its set</h2>
              <ul className="mt-1">
                {detail.siblings.map((sibling) => (
                  <li key={sibling.id}>
                    <RoomLink className="link" to={`/loops/${sibling.id}`}>
                      {sibling.title}
                    </RoomLink>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section>
            <h2>Used in</h2>
            {detail.usedIn.length ? (
              <ul className="mt-1">
                {detail.usedIn.map((used) => (
                  <li key={used.id}>
                    <RoomLink className="link" to={`/projects/${used.id}`}>
                      {used.name}
                    </RoomLink>
                    <span className="quiet">, bars {used.bars}</span>
                  </li>
                ))}
              </ul>
            ) : (
              <p className="quiet mt-1">no project yet</p>
            )}
          </section>
        </aside>
      </div>
      <CheckByEar key={row.id} detail={detail} />
      <Heard detail={detail} />
    </div>
  );
}
