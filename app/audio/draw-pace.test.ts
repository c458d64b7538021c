import { DrawPace } from './draw-pace';

/** How many of the frames that come at these distances are drawn on. */
function drawnOf(pace: DrawPace, fromMs: number, intervalMs: number, frames: number): number {
  let drawn = 0;
  for (let k = 0; k < frames; k++) if (pace.shouldDraw(fromMs + k * intervalMs)) drawn++;
  return drawn;
}

test('a screen that keeps up is drawn on with each frame, at any rate', () => {
  expect(drawnOf(new DrawPace(), 0, 1000 / 60, 600)).toBe(600);
  expect(drawnOf(new DrawPace(), 0, 1000 / 144, 600)).toBe(600);
});
test('a single late frame, and a page that was hidden, change nothing', () => {
  const pace = new DrawPace();
  drawnOf(pace, 0, 16, 100);
  expect(pace.shouldDraw(1660)).toBe(true);
  expect(drawnOf(pace, 1676, 16, 100)).toBe(100);
  expect(pace.shouldDraw(60_000)).toBe(true);
  expect(drawnOf(pace, 60_016, 16, 100)).toBe(100);
});
test('where frames come late every second one is drawn on, for a while; then all are tried again, later each time', () => {
  const pace = new DrawPace();
  drawnOf(pace, 0, 30, 60);
  // Ten seconds of rest from about the tenth frame on.
  expect(drawnOf(pace, 1800, 1000 / 60, 300)).toBe(150);
  expect(drawnOf(pace, 11_000, 1000 / 60, 300)).toBe(300);
  // Late once more: twice as long.
  drawnOf(pace, 16_100, 30, 60);
  expect(drawnOf(pace, 30_000, 1000 / 60, 240)).toBe(120);
  expect(drawnOf(pace, 38_000, 1000 / 60, 300)).toBe(300);
});
