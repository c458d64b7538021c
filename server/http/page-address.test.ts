import { pageAddress } from './page-address';

test.each([
  ['/packs?show=4', '/packs?show=4'],
  ['/', '/'],
  ['/_.data', '/'],
  ['/_root.data?q=kick&_routes=a,b', '/?q=kick'],
  ['/packs/ear.data?fact=key', '/packs/ear?fact=key'],
  ['/loops/3.data?_routes=x', '/loops/3'],
])('%s is for %s', (asked, page) => expect(pageAddress(new URL(asked, 'http://here.test'))).toBe(page));
