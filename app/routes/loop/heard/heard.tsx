import { families, type Family } from '~core/theory/instruments';
import { modeOf } from '~core/analysis/key/mode';
import type { KeyValue } from '~core/analysis/attributes/key';
import type { Candidate } from '~core/analysis/facts';
import { hiddenFamilies } from '~core/analysis/instrument/hidden';
import { keyName, type Key } from '~core/theory/key';
import { beatsToSeconds } from '~core/units/time';
import { signed } from '~/ui/format';
import type { LoopDetail } from '~contracts/loop-detail';
import { ChromaChart } from '../chroma-chart';
import { BarNotesChart } from './bar-notes';
import { ChordsSaid } from './chords-said';
import { GrooveGrid } from './groove-grid';
import { KeyCircle } from './key-circle';
import { MelodyRoll } from './melody-roll';
import { Shares } from './shares';
import { TempoCurve } from './tempo-curve';

/** Above this the joint stands out of what the loop does elsewhere. */
const audibleSeamDb = 3;

const decibels = (value: number | null, unit: string): string => (value === null ? '–' : `${value.toFixed(1).replace('-', '−')} ${unit}`);

/** What the sound itself gave: pulse and accents, notes and key, colour and level, as pictures with words beside them. */
export function Heard({ detail }: { detail: LoopDetail }) {
  const { analysis, row, chosen } = detail;
  if (!analysis) return null;
  const keyFact = detail.facts.find((fact) => fact.attribute === 'key' && fact.source === 'sound'),
    keys: Candidate<KeyValue>[] = keyFact
      ? [{ value: keyFact.value as KeyValue, probability: keyFact.confidence }, ...(keyFact.alternatives as Candidate<KeyValue>[])]
      : [];
  const { groove, levels } = analysis,
    mode = row.source.key && modeOf(detail.chroma, row.source.key);
  const alsoHeard = hiddenFamilies(analysis.heardFamilies ?? [], row.source.family).map(({ value, probability }) => ({
    name: families[value].label,
    percent: Math.round(probability * 100),
  }));
  return (
    <section aria-labelledby="heard-title" className="mt-6">
      <h2 id="heard-title">{levels ? 'What is heard in it' : 'What is written in it'}</h2>
      {analysis.heardSeconds !== null && (
        <p className="quiet">A long file: only its first {Math.round(analysis.heardSeconds)} seconds were heard for this.</p>
      )}
      <div className="mt-2 grid gap-x-10 gap-y-6 md:grid-cols-2 lg:grid-cols-3">
        {row.source.tempoBpm !== null && (
          <div>
            {analysis.pulse.length > 0 && (
              <>
                <h3 className="font-semibold">Pulse</h3>
                <TempoCurve
                  pulse={analysis.pulse}
                  chosen={row.source.tempoBpm}
                  rivals={(chosen.tempo?.alternatives ?? []) as Candidate<number>[]}
                />
              </>
            )}
            {groove && (
              <>
                <h3 className="mt-2 font-semibold">Accents in the bar</h3>
                <GrooveGrid groove={groove} perBeat={row.meter === '6/8' ? 6 : 4} />
                <p className="quiet mt-1">
                  {groove.swing !== null && `swing ${Math.round(groove.swing * 100)} % · `}
                  {groove.spreadMs !== null
                    ? `hits lie ${groove.spreadMs.toFixed(0)} ms from the grid in the mean`
                    : 'too few hits to judge the timing'}
                </p>
                {analysis.beatMap && (
                  <p className="quiet mt-1">The player’s time wanders, by up to {analysis.beatMap.farthestMs.toFixed(0)} ms.</p>
                )}
              </>
            )}
          </div>
        )}
        {analysis.families.length > 0 && (
          <div>
            <h3 className="font-semibold">Colour</h3>
            <div className="mt-1">
              <Shares
                label="Families of instruments"
                rows={analysis.families
                  .slice(0, 5)
                  .map(({ value, probability }) => ({ name: families[value as Family].label, share: probability }))}
              />
            </div>
            {alsoHeard.length > 0 && (
              <p className="mt-2">
                {alsoHeard.map(({ name, percent }) => `${name} (${percent} %)`).join(' and ')} {alsoHeard.length > 1 ? 'are' : 'is'} heard
                in it too.
              </p>
            )}
            {analysis.character.length > 0 && <p className="mt-2">Sounds {analysis.character.join(', ')}.</p>}
          </div>
        )}
        {levels && (
          <div>
            <h3 className="font-semibold">Level</h3>
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5">
              <Line name="loudness" value={decibels(levels.integratedLufs, 'LUFS')} />
              <Line name="loudest 3 s" value={decibels(levels.shortTermMaxLufs, 'LUFS')} />
              <Line name="true peak" value={decibels(levels.truePeakDbtp, 'dBTP')} />
              <Line name="quietest moments" value={decibels(levels.noiseFloorDbfs, 'dBFS')} />
              <Line
                name="clipped"
                value={levels.clippedRuns === 0 ? 'nowhere' : `in ${levels.clippedRuns} ${levels.clippedRuns === 1 ? 'place' : 'places'}`}
              />
              {analysis.seamDb != null && (
                <Line name="end to start" value={analysis.seamDb > audibleSeamDb ? 'clicks where it repeats' : 'joins without a click'} />
              )}
              {levels.bandLimitHz && (
                <Line name="treble" value={`cut off at ${(levels.bandLimitHz / 1000).toFixed(1)} kHz, as in lossy or low-rate files`} />
              )}
              <Line
                name="width"
                value={
                  levels.width < 0.02 ? 'mono' : `${Math.round(levels.width * 100)} %, loses ${levels.monoLossDb.toFixed(1)} dB in mono`
                }
              />
            </dl>
          </div>
        )}
        {row.source.pitched && (
          <div className="md:col-span-2 lg:col-span-3">
            <h3 className="font-semibold">Notes and key</h3>
            <div className="mt-1 grid items-start gap-6 md:grid-cols-[14rem_16rem_1fr]">
              <KeyCircle chosen={row.source.key} keys={keys} />
              <div>
                <ChromaChart chroma={detail.chroma} musicKey={row.source.key} />
                <p className="quiet">
                  {levels && detail.tuningCents !== null && `tuned ${signed(detail.tuningCents)} cents from A = 440 Hz`}
                </p>
                {row.source.key === null && (
                  <p>No single key: its notes fit no one scale from start to end, so it is never moved with a project’s key.</p>
                )}
                {mode && (
                  <p>
                    Its notes are those of {keyName(row.source.key as Key).split(' ')[0]} {mode}.
                  </p>
                )}
              </div>
              {analysis.bars.length > 0 && (
                <BarNotesChart bars={analysis.bars} beatChords={analysis.beatChords} barBeats={row.source.barBeats} />
              )}
            </div>
            <ChordsSaid key={row.id} detail={detail} />
            {analysis.melody && (
              <div className="mt-4">
                <h3 className="font-semibold">Melody</h3>
                <MelodyRoll
                  melody={analysis.melody}
                  lengthSeconds={row.lengthSeconds}
                  startSeconds={detail.firstBarSeconds}
                  barSeconds={row.source.tempoBpm === null ? null : beatsToSeconds(row.source.barBeats, row.source.tempoBpm)}
                />
              </div>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

function Line({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="quiet">{name}</dt>
      <dd>{value}</dd>
    </>
  );
}
