import { SequelizeStorage, Umzug } from 'umzug';
import * as foundation from './migrations/0001-foundation';
import * as analysisDetail from './migrations/0002-analysis-detail';
import * as firstBar from './migrations/0003-first-bar';
import * as likenessAndPrint from './migrations/0004-likeness-and-print';
import * as treatment from './migrations/0005-treatment';
import * as doubt from './migrations/0006-doubt';
import * as heardParts from './migrations/0007-heard-parts';
import * as faintHits from './migrations/0008-faint-hits';
import * as heardIsPlaced from './migrations/0009-heard-is-placed';
import * as importsThatEnd from './migrations/0010-imports-that-end';
import * as triesAreCounted from './migrations/0011-tries-are-counted';
import * as foundAtOnce from './migrations/0012-found-at-once';
import * as countedByIndex from './migrations/0013-counted-by-index';
import * as namesOfTheField from './migrations/0014-names-of-the-field';
import * as attributesByRegistry from './migrations/0015-attributes-by-registry';
import * as genre from './migrations/0016-genre';
import * as character from './migrations/0017-character';
import * as setRole from './migrations/0018-set-role';
import * as exchange from './migrations/0019-exchange';
import * as changes from './migrations/0020-changes';
import * as paused from './migrations/0021-paused';
import * as confirmed from './migrations/0022-confirmed';
import * as importOptions from './migrations/0023-import-options';
import * as twins from './migrations/0024-twins';
import * as documents from './migrations/0025-documents';
import * as collections from './migrations/0026-collections';
import * as demoMixes from './migrations/0027-demo-mixes';
import * as folders from './migrations/0028-folders';
import * as namePatterns from './migrations/0029-name-patterns';
import * as ownInstruments from './migrations/0030-own-instruments';
import * as growing from './migrations/0031-growing';
import * as words from './migrations/0032-words';
import * as heard from './migrations/0033-heard';
import * as finding from './migrations/0034-finding';
import * as projectEdits from './migrations/0035-project-edits';
import * as contentAndFades from './migrations/0036-content-and-fades';
import * as versionsAndNotes from './migrations/0037-versions-and-notes';
import * as landing from './migrations/0038-landing';
import * as makings from './migrations/0039-makings';
import * as madeUnder from './migrations/0040-made-under';
import * as harmonyAndNotes from './migrations/0041-harmony-and-notes';
import * as fillsLand from './migrations/0042-fills-land';
import * as doubtsByPack from './migrations/0043-doubts-by-pack';
import * as takenBack from './migrations/0044-taken-back';
import * as endedWords from './migrations/0045-ended-words';
import * as stems from './migrations/0046-stems';
import * as stoppedExports from './migrations/0047-stopped-exports';
import * as goneForADay from './migrations/0048-gone-for-a-day';
import { sequelize } from './connection';

const migrations = [
  { name: '0001-foundation', ...foundation },
  { name: '0002-analysis-detail', ...analysisDetail },
  { name: '0003-first-bar', ...firstBar },
  { name: '0004-likeness-and-print', ...likenessAndPrint },
  { name: '0005-treatment', ...treatment },
  { name: '0006-doubt', ...doubt },
  { name: '0007-heard-parts', ...heardParts },
  { name: '0008-faint-hits', ...faintHits },
  { name: '0009-heard-is-placed', ...heardIsPlaced },
  { name: '0010-imports-that-end', ...importsThatEnd },
  { name: '0011-tries-are-counted', ...triesAreCounted },
  { name: '0012-found-at-once', ...foundAtOnce },
  { name: '0013-counted-by-index', ...countedByIndex },
  { name: '0014-names-of-the-field', ...namesOfTheField },
  { name: '0015-attributes-by-registry', ...attributesByRegistry },
  { name: '0016-genre', ...genre },
  { name: '0017-character', ...character },
  { name: '0018-set-role', ...setRole },
  { name: '0019-exchange', ...exchange },
  { name: '0020-changes', ...changes },
  { name: '0021-paused', ...paused },
  { name: '0022-confirmed', ...confirmed },
  { name: '0023-import-options', ...importOptions },
  { name: '0024-twins', ...twins },
  { name: '0025-documents', ...documents },
  { name: '0026-collections', ...collections },
  { name: '0027-demo-mixes', ...demoMixes },
  { name: '0028-folders', ...folders },
  { name: '0029-name-patterns', ...namePatterns },
  { name: '0030-own-instruments', ...ownInstruments },
  { name: '0031-growing', ...growing },
  { name: '0032-words', ...words },
  { name: '0033-heard', ...heard },
  { name: '0034-finding', ...finding },
  { name: '0035-project-edits', ...projectEdits },
  { name: '0036-content-and-fades', up: contentAndFades.up, down: contentAndFades.down },
  { name: '0037-versions-and-notes', ...versionsAndNotes },
  { name: '0038-landing', ...landing },
  { name: '0039-makings', ...makings },
  { name: '0040-made-under', ...madeUnder },
  { name: '0041-harmony-and-notes', ...harmonyAndNotes },
  { name: '0042-fills-land', ...fillsLand },
  { name: '0043-doubts-by-pack', ...doubtsByPack },
  { name: '0044-taken-back', ...takenBack },
  { name: '0045-ended-words', ...endedWords },
  { name: '0046-stems', ...stems },
  { name: '0047-stopped-exports', ...stoppedExports },
  { name: '0048-gone-for-a-day', ...goneForADay },
];
const lockId = 7270017;

/** Brings the database up to date; processes that start at the same time wait for each other. */
export async function migrate(): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`select pg_advisory_xact_lock(${lockId})`, { transaction });
    const umzug = new Umzug({
      migrations: migrations.map(({ name, up, down }) => ({
        name,
        // However long it takes.
        up: async () => void (await sequelize.query(`set statement_timeout = 0; ${up}; reset statement_timeout`)),
        down: async () => void (await sequelize.query(down)),
      })),
      storage: new SequelizeStorage({ sequelize }),
      logger: undefined,
    });
    await umzug.up();
  });
}
