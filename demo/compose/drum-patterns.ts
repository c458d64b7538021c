import type { Line } from './groove';

/** Named grooves of a kit in 4/4, sixteen steps a bar. */
export const drumPatterns: readonly (readonly [string, readonly Line[]])[] = [
  [
    'four',
    [
      { pitch: 36, steps: 'X...X...X...X...' },
      { pitch: 39, steps: '....X.......X...' },
      { pitch: 42, steps: 'o.x.o.x.o.x.o.xg' },
      { pitch: 46, steps: '..............x.' },
      { pitch: 38, steps: '.......g.....g..' },
    ],
  ],
  [
    'broken',
    [
      { pitch: 36, steps: 'X..o......X..o..' },
      { pitch: 38, steps: '....X..g.g..X..g', lateBeats: 0.008 },
      { pitch: 42, steps: 'x.o.x.o.x.oox.o.' },
      { pitch: 46, steps: '......x.........' },
    ],
  ],
  [
    'half',
    [
      { pitch: 36, steps: 'X.....x...x.....' },
      { pitch: 38, steps: '........X......g', lateBeats: 0.012 },
      { pitch: 42, steps: 'x.xox.x.x.xox.xx' },
      { pitch: 37, steps: '...g..g......g..' },
    ],
  ],
  [
    'rock',
    [
      { pitch: 36, steps: 'X.......X.o.....' },
      { pitch: 38, steps: '....X..g....X...' },
      { pitch: 42, steps: 'X.o.x.o.X.o.x.o.' },
      { pitch: 49, steps: 'x...............................................................' },
    ],
  ],
  [
    'swung',
    [
      { pitch: 36, steps: 'X......oX.......' },
      { pitch: 38, steps: '..g.X.g...g.X..g' },
      { pitch: 51, steps: 'x..gx.ogx..gx.og' },
      { pitch: 44, steps: '....o.......o...' },
    ],
  ],
  [
    'fast',
    [
      { pitch: 36, steps: 'X.........X.....' },
      { pitch: 38, steps: '....X..g.g..X.g.' },
      { pitch: 42, steps: 'x.o.x.o.x.o.x.o.' },
      { pitch: 51, steps: 'o...o...o...o...' },
    ],
  ],
];
export const waltz: readonly Line[] = [
  { pitch: 36, steps: 'X.......o...' },
  { pitch: 38, steps: '....x.g.x.g.' },
  { pitch: 42, steps: 'x.o.x.o.x.o.' },
];
