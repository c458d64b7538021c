import { folderTree } from './folder-tree';

test('folders become a tree that counts what lies below', () => {
  const tree = folderTree([
    { folder: 'Pack/Drums/Kicks/', count: 3 },
    { folder: 'Pack/Drums/', count: 2 },
    { folder: 'Pack/Bass 10/', count: 1 },
    { folder: 'Pack/Bass 9/', count: 4 },
  ]);
  // The only one on top is passed over.
  expect(tree).toMatchObject({ name: 'Pack', path: 'Pack/', count: 10 });
  expect(tree.folders.map(({ name, count }) => [name, count])).toEqual([
    ['Bass 9', 4],
    ['Bass 10', 1],
    ['Drums', 5],
  ]);
  expect(tree.folders[2].folders).toEqual([{ name: 'Kicks', path: 'Pack/Drums/Kicks/', count: 3, folders: [] }]);
});
test('files beside the only folder keep it apart, and no folders at all are a top without any', () => {
  expect(
    folderTree([
      { folder: '', count: 1 },
      { folder: 'A/', count: 1 },
    ]).folders.map(({ path }) => path),
  ).toEqual(['A/']);
  expect(folderTree([{ folder: '', count: 7 }])).toEqual({ name: '', path: '', count: 7, folders: [] });
  expect(folderTree([]).count).toBe(0);
});
