import { courseMs, isOnCourse, type Course } from './head-course';

const course: Course = { x: 100, pixelsAMs: 0.05, fromMs: 1000 },
  seen = (x: number | null, fromMs: number, pixelsAMs = course.pixelsAMs): Course => ({ x, fromMs, pixelsAMs });

test('where the music goes on as it went, the line is left alone, though the audio clock goes by steps', () => {
  expect(isOnCourse(course, seen(150, 2000))).toBe(true);
  expect(isOnCourse(course, seen(149, 2000))).toBe(true);
});
test('a jump, another pace, a stop and a long way are told', () => {
  expect(isOnCourse(course, seen(100, 2000))).toBe(false);
  expect(isOnCourse(course, seen(150, 2000, 0.06))).toBe(false);
  expect(isOnCourse(course, seen(150, 2000, 0))).toBe(false);
  expect(isOnCourse(course, seen(100 + 0.05 * courseMs, 1000 + courseMs))).toBe(false);
});
test('far zoomed in it may be as late, not as near: 40 ms of a pace', () => {
  const fast = { ...course, pixelsAMs: 1 };
  expect(isOnCourse(fast, seen(1100 - 35, 2000, 1))).toBe(true);
  expect(isOnCourse(fast, seen(1100 - 45, 2000, 1))).toBe(false);
});
test('what stands is put right by any distance, and sets out from where it stands', () => {
  const standing = { ...course, pixelsAMs: 0 };
  expect(isOnCourse(standing, seen(100, 9000, 0))).toBe(true);
  expect(isOnCourse(standing, seen(100.01, 9000, 0))).toBe(false);
  expect(isOnCourse(standing, seen(100, 9000))).toBe(false);
});
test('what is not to be seen stays so until it is', () => {
  const hidden = seen(null, 0, 0);
  expect(isOnCourse(hidden, seen(null, 5000, 0))).toBe(true);
  expect(isOnCourse(hidden, seen(0, 5000, 0))).toBe(false);
  expect(isOnCourse(course, seen(null, 2000, 0))).toBe(false);
});
