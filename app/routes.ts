import { index, layout, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  route('sign-in', 'routes/sign-in/route.tsx'),
  layout('routes/room/route.tsx', [
    index('routes/library/route.tsx'),
    route('loops/:loopId', 'routes/loop/route.tsx'),
    route('packs', 'routes/packs/route.tsx'),
    route('projects', 'routes/projects/route.tsx'),
    route('projects/:projectId', 'routes/project/route.tsx'),
    route('people', 'routes/people/route.tsx'),
    route('diagnostics', 'routes/diagnostics/route.tsx'),
  ]),
  route('remote', 'routes/remote/route.tsx'),
  route('sign-out', 'routes/resources/sign-out.ts'),
  route('api/loops', 'routes/resources/loops.ts'),
  route('api/loops/act', 'routes/resources/loops-act.ts'),
  route('api/loops/:loopId/notes', 'routes/resources/loop-notes.ts'),
  route('api/imports', 'routes/resources/imports.ts'),
  route('api/imports/:batchId/files', 'routes/resources/import-files.ts'),
  route('api/projects', 'routes/resources/projects.ts'),
  route('api/projects/:projectId/edits', 'routes/resources/project-edits.ts'),
  route('api/projects/:projectId/exports', 'routes/resources/project-exports.ts'),
  route('api/remote', 'routes/resources/remote.ts'),
  route('events', 'routes/resources/events.ts'),
  route('media/sound/:sha', 'routes/resources/media-sound.ts'),
  route('media/file/:loopId', 'routes/resources/media-file.ts'),
  route('media/export/:exportId', 'routes/resources/media-export.ts'),
] satisfies RouteConfig;
