/** Imports go down only: app -> ui -> audio, workers -> core; app -> server -> core; cli, demo, bench -> core. */
const room = (name, from, to) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: to },
})

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'resolvable',
      severity: 'error',
      // The reference trackers are fetched only when they are measured (bench/package.json).
      from: { pathNot: '^bench/hearing/trackers' },
      to: { couldNotResolve: true },
    },
    room('core-stands-alone', '^src/core', '^(src/(audio|workers|server|ui|app|learner)|cli|demo|bench)'),
    {
      name: 'core-uses-small-pure-libraries-only',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test(-tools)?\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core'],
        pathNot:
          'node_modules/(valibot|fft\\.js|midi-file|media-captions|entities|ical-generator|@zxcvbn-ts)/',
      },
    },
    room('decoders-look-down', '^src/decode', '^src/(audio|workers|server|ui|app|learner)'),
    room('audio-looks-down', '^src/audio', '^src/(workers|server|ui|app|learner)'),
    room('workers-look-down', '^src/workers', '^src/(audio|server|ui|app|learner)'),
    room('server-looks-down', '^src/server', '^src/(audio|workers|ui|app|learner)'),
    room('ui-looks-down', '^src/ui', '^src/(server|app|learner)'),
    {
      name: 'stations-stand-alone',
      severity: 'error',
      from: { path: '^src/ui/stations/([^/]+)/', pathNot: '\\.test\\.tsx?$' },
      // What two need goes to ui/parts, ui/sheet, ui/state or core.
      to: { path: '^src/ui/stations/[^/]+/', pathNot: '^src/ui/stations/$1/' },
    },
    room('parts-know-no-station', '^src/ui/(film|parts|sheet|state|keys|say|theme)', '^src/ui/stations'),
    // Hearing and its weights are a program of the worker's, not of pages.
    {
      name: 'pages-never-listen',
      severity: 'error',
      from: { path: '^src/(app|ui|learner|audio)', pathNot: '\\.test(-tools)?\\.tsx?$' },
      to: { path: '^src/core/hear/listen', reachable: true },
    },
    // The list of passwords that many use is loaded where one is chosen.
    {
      name: 'pages-load-passwords-when-one-is-chosen',
      severity: 'error',
      from: { path: '^src/(ui|learner|audio)' },
      to: { path: '^src/core/password/strength', dynamic: false },
    },
    // What reads and sends films is a third as large as a page. (Of the film maker's two imports one is of types, which is not told apart here.)
    ...[
      ['what-sends', '^src/ui/state/film-upload', '^src/(decode/|ui/state/film-upload)'],
      ['what-reads', '^src/ui/(state/film-upload|film/make-practice-film)', '^node_modules/mediabunny'],
    ].map(([name, itself, path]) => ({
      name: `pages-load-${name}-films-when-there-is-one`,
      severity: 'error',
      from: { path: '^src/(app|ui|learner|audio)', pathNot: [itself, '\\.test(-tools)?\\.tsx?$'] },
      to: { path, dynamic: false },
    })),
    // The program inside practice pages: of the app it takes colours, saving a file, tasks, and asking its workers.
    room(
      'learner-looks-down',
      '^src/learner',
      '^src/(server|app|workers|ui/(?!theme/|parts/save-file|state/(match|measure|in-worker|task)))',
    ),
    // Backing up is the server's work without its server.
    room('cli-is-core-only', '^cli/(?!backup|account)', '^src/(audio|workers|ui|app|server)'),
    room('backup-is-no-page', '^cli/(backup|account)', '^src/(audio|workers|ui|app)'),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'] },
  },
}
