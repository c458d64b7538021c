export type Source = 'person' | 'project' | 'confirmed' | 'tag' | 'file-name' | 'folder' | 'length' | 'sound' | 'notes' | 'set' | 'pack';

export const sourceLabels: Readonly<Record<Source, string>> = {
  person: 'a person',
  project: 'project it was made in',
  confirmed: 'a person elsewhere',
  tag: 'tag inside the file',
  'file-name': 'file name',
  folder: 'folder',
  length: 'length',
  sound: 'sound',
  notes: 'notes',
  set: 'others of its set',
  pack: 'others of its pack',
};

/** Whether what it says is known, and no guess: a person's word, or what a loop was made as. The person's comes first. */
export const isWord = (source: Source): boolean => source === 'person' || source === 'project';
