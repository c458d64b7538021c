import type { WholeLoop } from '~contracts/whole-loop';

/** What tells two loops of one name apart, the plainest first. */
const marks: readonly ((row: WholeLoop) => string)[] = [
  ({ source }) => (source.media === 'midi' ? 'MIDI' : 'audio'),
  ({ packName }) => packName,
  ({ fileName }) => fileName,
  ({ id }) => `number ${id}`,
];

/** What sets a loop apart from others of its name among those shown beside it, in a word; empty where its name does. */
export function nameApart(row: WholeLoop, among: readonly WholeLoop[]): string {
  const namesakes = among.filter((other) => other.id !== row.id && other.title === row.title);
  return namesakes.length === 0
    ? ''
    : (marks.map((mark) => mark(row)).find((_, k) => namesakes.every((other) => marks[k](other) !== marks[k](row))) ?? '');
}
