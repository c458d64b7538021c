import { ask, withForm } from './ask';

/** Addresses of the API, as the pages ask them; see docs/api. */
export const api = {
  loop: (loopId: number): string => `/api/v1/loops/${loopId}`,
  favourite: (loopId: number): string => `/api/v1/loops/${loopId}/favourite`,
  tag: (loopId: number, name: string): string => `/api/v1/loops/${loopId}/tags/${encodeURIComponent(name)}`,
  fact: (loopId: number, attribute: string): string => `/api/v1/loops/${loopId}/facts/${attribute}`,
  fitDefaults: (loopId: number): string => `/api/v1/loops/${loopId}/fit-defaults`,
  archivedLoops: '/api/v1/loops/archived',
  doubtsAlike: (loopId: number, attribute: string, withGuesses: boolean): string =>
    `/api/v1/doubts/alike?loopId=${loopId}&attribute=${attribute}${withGuesses ? '&guesses=1' : ''}`,
  doubtsPacks: '/api/v1/doubts/packs',
  agreedFacts: '/api/v1/facts/agreed',
  words: '/api/v1/words',
  projects: '/api/v1/projects',
  imports: '/api/v1/imports',
  projectExports: (projectId: number): string => `/api/v1/projects/${projectId}/exports`,
  projectExport: (projectId: number, exportId: number): string => `/api/v1/projects/${projectId}/exports/${exportId}`,
  projectUsed: (projectId: number): string => `/api/v1/projects/${projectId}/used`,
  projectEdits: (projectId: number): string => `/api/v1/projects/${projectId}/edits`,
  projectVersions: (projectId: number): string => `/api/v1/projects/${projectId}/versions`,
  projectVersion: (projectId: number, versionId: number): string => `/api/v1/projects/${projectId}/versions/${versionId}`,
  projectNotes: (projectId: number): string => `/api/v1/projects/${projectId}/notes`,
  projectNote: (projectId: number, noteId: number): string => `/api/v1/projects/${projectId}/notes/${noteId}`,
  presence: (projectId: number): string => `/api/v1/projects/${projectId}/presence`,
  pack: (packId: number): string => `/api/v1/packs/${packId}`,
  packArchived: (packId: number): string => `/api/v1/packs/${packId}/archived`,
  person: (personId: number): string => `/api/v1/people/${personId}`,
  twins: (twinsId: number): string => `/api/v1/twins/${twinsId}`,
  packNames: (packId: number): string => `/api/v1/packs/${packId}/names`,
  packDemo: (packId: number): string => `/api/v1/packs/${packId}/demo`,
  heard: '/api/v1/heard',
  remote: '/api/v1/remote',
  makings: '/api/v1/makings',
  makingFiles: (name: string, tempoBpm: number | null): string =>
    `/api/v1/makings/files?name=${encodeURIComponent(name)}${tempoBpm === null ? '' : `&tempo=${tempoBpm}`}`,
  title: (loopId: number): string => `/api/v1/loops/${loopId}/title`,
  tags: '/api/v1/tags',
  loopChords: (loopId: number): string => `/api/v1/loops/${loopId}/chords`,
  rating: (loopId: number): string => `/api/v1/loops/${loopId}/rating`,
  searches: '/api/v1/searches',
  recentSearches: '/api/v1/searches/recent',
  search: (searchId: number): string => `/api/v1/searches/${searchId}`,
  fitWeights: '/api/v1/fit-weights',
  askedSounds: (name: string): string => `/api/v1/asked-sounds?name=${encodeURIComponent(name)}`,
  instruments: '/api/v1/instruments',
  instrument: (id: string): string => `/api/v1/instruments/${id}`,
  folders: '/api/v1/folders',
  folder: (folderId: number): string => `/api/v1/folders/${folderId}`,
  collections: '/api/v1/collections',
  collectionOrder: (collectionId: number): string => `/api/v1/collections/${collectionId}/order`,
  collection: (collectionId: number): string => `/api/v1/collections/${collectionId}`,
  changes: '/api/v1/changes',
  loopFiles: '/api/v1/loops/files',
  heardAnew: '/api/v1/loops/heard-anew',
  change: (changeId: number): string => `/api/v1/changes/${changeId}`,
  loopIds: (search: string): string => `/api/v1/loops/ids${search}`,
  exchangeHeard: (source: string): string => `/api/v1/exchange/${source}/heard`,
  exchangeTakes: (source: string): string => `/api/v1/exchange/${source}/takes`,
  exchangeKey: (source: string): string => `/api/v1/exchange/${source}/key`,
} as const;

/** Makes a project of a loop: its tempo, its key, the loop at bar 1. @returns its id, or null when it could not be made */
export async function projectFromLoop(loopId: number): Promise<number | null> {
  const made = await ask<{ id: number }>(api.projects, withForm('post', { intent: 'from-loop', loopId }));
  return made.ok ? made.answer.id : null;
}

/** A thing is put there, or taken away. */
export const putOrDelete = (isThere: boolean): 'put' | 'delete' => (isThere ? 'put' : 'delete');
