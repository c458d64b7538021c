export type Source = 'person' | 'confirmed' | 'tag' | 'file-name' | 'folder' | 'length' | 'sound' | 'notes' | 'set' | 'pack';

export const sourceLabels: Readonly<Record<Source, string>> = {
  person: 'a person',
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
