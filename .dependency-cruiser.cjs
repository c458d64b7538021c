/** Which folder may import which: core <- workers <- app/audio <- app/routes, core <- server <- app/routes. */
const never = (name, from, to, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: to },
});

module.exports = {
  forbidden: [
    {
      name: 'no-rings',
      severity: 'error',
      comment: 'Files that import each other cannot be read one at a time.',
      from: {},
      to: { circular: true },
    },
    never(
      'contracts-know-core-only',
      '^contracts/',
      '^(app|server|workers|demo|scripts)/',
      'What server and pages agree on belongs to neither.',
    ),
    never('engine-and-shared-parts-know-no-server', '^app/(audio|ui)/', '^server/', 'They take their types from core and contracts.'),
    never('core-stands-alone', '^core/', '^(app|server|contracts|workers|demo|scripts)/', 'core/ is pure computation.'),
    never('workers-know-core-only', '^workers/', '^(app|server|contracts|demo|scripts)/', 'Workers translate messages for core.'),
    never(
      'services-know-no-http',
      '^server/(services|storage|jobs|events|db)/',
      '^server/http/',
      'Services are asked by pages and jobs alike.',
    ),
    never('queries-know-no-services', '^server/db/', '^server/(services|jobs|storage|events|http)/', 'SQL is below all who ask.'),
    never('server-below-the-views', '^server/', '^(app|demo|scripts)/', 'Services know nothing of routes.'),
    never('nobody-imports-the-demo', '^(core|workers|server|app)/', '^demo/', 'The demo is a guest.'),
    never(
      'the-outside-is-outside',
      '^(core|workers|contracts|server|app|demo)/',
      '^exchange/',
      'The exchange is another service: it is spoken to over HTTP.',
    ),
    never('the-exchange-knows-no-library', '^exchange/', '^(server|app|contracts|workers)/', 'It could be anybody’s.'),
    never('audio-below-the-views', '^app/audio/', '^app/routes/', 'The engine knows no page.'),
    never('ui-below-the-views', '^app/ui/', '^app/routes/', 'Shared parts know no page.'),
    {
      name: 'views-stay-apart',
      severity: 'error',
      comment: 'What two views share belongs in app/ui.',
      from: { path: '^app/routes/([^/]+)/' },
      to: { path: '^app/routes/([^/]+)/', pathNot: '^app/routes/$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
