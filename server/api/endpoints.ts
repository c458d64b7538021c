import type { AnyObjectSchema } from 'yup';
import {
  folderForm,
  hearingForm,
  instrumentForm,
  packForm,
  batchForm,
  exchangeKeyForm,
  exportForm,
  outsideForm,
  takeForm,
  fitDefaultsForm,
  projectForm,
  remoteForm,
} from '../forms/forms';

export interface Endpoint {
  readonly path: string;
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly does: string;
  /** The schema that its form is checked by; null where it takes none, or says itself what it takes. */
  readonly form: AnyObjectSchema | null;
  /** What it takes beside a form, in words. */
  readonly takes?: string;
}

const endpoint = (
  method: Endpoint['method'],
  path: string,
  does: string,
  form: AnyObjectSchema | null = null,
  takes?: string,
): Endpoint => ({
  path,
  method,
  does,
  form,
  ...(takes ? { takes } : {}),
});

/** Every address of the API; a test holds it against the routes. */
export const endpoints: readonly Endpoint[] = [
  endpoint('get', '/api/v1/openapi.json', 'This description'),
  endpoint(
    'get',
    '/api/v1/loops',
    'A page of rows that a search finds, or rows by id',
    null,
    'the parameters of the Library’s address, and `offset`; or `id`, several times',
  ),
  endpoint('put', '/api/v1/loops/archived', 'Archives loops', null, '`loopId`, several times'),
  endpoint('delete', '/api/v1/loops/archived', 'Brings archived loops back', null, '`loopId`, several times'),
  endpoint('put', '/api/v1/loops/{loopId}/favourite', 'Makes a loop a favourite of who asks'),
  endpoint('delete', '/api/v1/loops/{loopId}/favourite', 'A favourite no longer'),
  endpoint('put', '/api/v1/loops/{loopId}/tags/{tag}', 'Tags a loop'),
  endpoint('delete', '/api/v1/loops/{loopId}/tags/{tag}', 'Takes a tag away'),
  endpoint(
    'put',
    '/api/v1/loops/{loopId}/facts/{attribute}',
    'A person’s word on a fact',
    null,
    '`value` in the attribute’s own form: tempo `124.6`, key `5m`',
  ),
  endpoint('delete', '/api/v1/loops/{loopId}/facts/{attribute}', 'Takes that word back: the detectors speak again'),
  endpoint('put', '/api/v1/loops/{loopId}/fit-defaults', 'How a loop is always fitted', fitDefaultsForm),
  endpoint('get', '/api/v1/loops/{loopId}/notes', 'The notes of a loop, bar by bar'),
  endpoint(
    'get',
    '/api/v1/doubts/alike',
    'The other doubts on a fact in a loop’s pack',
    null,
    '`loopId`, `attribute`; with `guesses=1` what each is guessed to be',
  ),
  endpoint('get', '/api/v1/doubts/packs', 'Packs in which something is in doubt, and how far each is'),
  endpoint('put', '/api/v1/facts/agreed', 'Agrees with facts as they stand', null, '`fact` as `17-tempo`, several times'),
  endpoint('delete', '/api/v1/facts/agreed', 'Takes agreement back', null, '`fact` as `17-tempo`, several times'),
  endpoint('put', '/api/v1/packs/{packId}', 'Says something else of a pack; answers with what was said before', packForm),
  endpoint(
    'put',
    '/api/v1/packs/{packId}/names',
    'Says how names of one shape are read in a pack, all of which are then read so',
    null,
    '`signature` of the shape, `role` of each part, several times: tempo, key, number, letter, code, words',
  ),
  endpoint('delete', '/api/v1/packs/{packId}/names', 'Takes that back', null, '`signature`'),
  endpoint('get', '/api/v1/packs/{packId}/demo', 'Where a pack’s demo mix stands'),
  endpoint('post', '/api/v1/packs/{packId}/demo', 'Asks for sixteen bars of a pack’s own loops that agree'),
  endpoint('put', '/api/v1/collections/{collectionId}', 'Renames one’s own collection', null, '`name`'),
  endpoint('delete', '/api/v1/collections/{collectionId}', 'Puts one’s own collection away; `restore` brings it back', null, '`restore`'),
  endpoint('get', '/api/v1/heard', 'What who asks has heard, the latest first'),
  endpoint('post', '/api/v1/heard', 'Keeps what is heard now', hearingForm),
  endpoint('get', '/api/v1/instruments', 'The group’s own instruments'),
  endpoint('post', '/api/v1/instruments', 'Adds an instrument of the group’s own', instrumentForm),
  endpoint('delete', '/api/v1/instruments/{instrumentId}', 'Takes one out of the choices; loops that are it stay so'),
  endpoint('get', '/api/v1/folders', 'Folders of the server’s machine from which loops come in, and for a keeper those that may be chosen'),
  endpoint('post', '/api/v1/folders', 'Lets loops come in from a folder; a keeper’s to do', folderForm),
  endpoint('put', '/api/v1/folders/{folderId}', 'Watches a folder or no more, or has it looked into', null, '`isWatched`, `look`'),
  endpoint('delete', '/api/v1/folders/{folderId}', 'Forgets a folder; what it brought in stays'),
  endpoint('get', '/api/v1/imports', 'The latest imports, or the files of one', null, '`batch`, `offset`'),
  endpoint(
    'post',
    '/api/v1/imports',
    'Opens an import, starts, stops, retries it, takes it back',
    batchForm,
    '`intent`: open, start, drop, retry, cancel, take-back, restore; `batchId` but for open',
  ),
  endpoint('put', '/api/v1/imports/{batchId}/files', 'A file of an import', null, 'the file as the body, `path` in the address'),
  endpoint(
    'post',
    '/api/v1/projects',
    'Makes a project, brings one into the room, archives one',
    projectForm,
    '`intent`: enter, archive, restore, from-loop; none makes one',
  ),
  endpoint('get', '/api/v1/projects/{projectId}/edits', 'Which revision a project has'),
  endpoint('post', '/api/v1/projects/{projectId}/edits', 'Edits, with the revision they were made on', null, 'JSON: `revision`, `edits`'),
  endpoint('get', '/api/v1/projects/{projectId}/exports', 'The mixdowns of a project'),
  endpoint('post', '/api/v1/projects/{projectId}/exports', 'Asks for a mixdown', exportForm),
  endpoint('post', '/api/v1/remote', 'Between the rooms and remotes of one person', remoteForm),
  endpoint(
    'post',
    '/api/v1/exchange/{source}/heard',
    'Fetches a preview from outside, as a loop that can be heard over the project',
    outsideForm,
  ),
  endpoint(
    'post',
    '/api/v1/exchange/{source}/takes',
    'Takes a pack from outside, or some of its loops',
    takeForm,
    '`loopId`, several times, for some',
  ),
  endpoint('put', '/api/v1/exchange/{source}/key', 'Keeps who asks’s key for an exchange', exchangeKeyForm),
  endpoint('delete', '/api/v1/exchange/{source}/key', 'Takes that key away'),
  endpoint(
    'get',
    '/api/v1/loops/ids',
    'Ids of a part of what a search finds',
    null,
    'the parameters of the Library’s address, `offset`, `limit`',
  ),
  endpoint('get', '/api/v1/changes', 'The latest changes to many loops at once'),
  endpoint(
    'post',
    '/api/v1/changes',
    'Changes many loops in one step, or tells what it would do',
    null,
    'JSON: `selection` (`ids`, or the `address` of a search), `change`, `preview`',
  ),
  endpoint('delete', '/api/v1/changes/{changeId}', 'Takes such a change back, all of it'),
  endpoint(
    'post',
    '/api/v1/loops/files',
    'A zip of loops with what is known in them, manifests and licences',
    null,
    '`ids` with commas, or the `address` of a search; `names`: `vendor`, `title` or `pattern`, and then `pattern`',
  ),
  endpoint(
    'post',
    '/api/v1/loops/heard-anew',
    'Listens to loops again, from their files, behind all imports',
    null,
    '`ids` with commas, or the `address` of a search',
  ),
];
