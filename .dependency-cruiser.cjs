// The layers of docs/architecture.md as a check: who may import whom.
const subjects = [
  'units',
  'indexes',
  'assumed',
  'find',
  'day',
  'link',
  'voice',
  'screens',
  'picture',
  'settings',
  'redirection',
  'signon',
  'access',
  'hosts',
  'evidence',
  'bringup',
  'estate',
];
const mayUse = {
  units: [],
  assumed: [],
  find: [],
  day: ['assumed', 'units'],
  link: ['units'],
  voice: [],
  screens: ['units'],
  picture: ['link'],
  settings: [],
  redirection: ['settings'],
  signon: ['assumed'],
  hosts: [],
  bringup: ['assumed', 'day', 'evidence', 'find', 'link', 'screens', 'settings', 'units'],
  evidence: ['assumed', 'link', 'screens', 'units'],
  indexes: [],
  access: ['settings', 'indexes'],
  estate: ['assumed', 'settings', 'access', 'indexes'],
};
/** The server's modules: which of its subjects and rooms one may import. What is in no row is free to all, and so is the guard, whose marks every route carries. */
const serverModules = {
  jobs: [],
  securityLog: ['jobs', 'signin'],
  signin: ['estate', 'securityLog'],
  estate: ['jobs', 'securityLog'],
  crossing: ['estate', 'jobs', 'securityLog'],
  access: ['crossing', 'estate', 'jobs', 'securityLog'],
  signon: ['crossing', 'estate', 'jobs'],
  evidence: ['estate', 'securityLog'],
  bringup: ['crossing', 'estate', 'jobs', 'securityLog'],
  settings: ['crossing', 'estate', 'jobs'],
  people: ['crossing', 'estate', 'securityLog', 'signin'],
  views: [],
  health: ['crossing', 'estate', 'evidence'],
};
const guarded = Object.keys(serverModules);
module.exports = {
  forbidden: [
    ...guarded.map((name) => ({
      name: `server-${name}-knows-its-own`,
      severity: 'error',
      from: { path: `^apps/server/src/${name}/` },
      to: {
        path: `^apps/server/src/(${guarded.filter((other) => other !== name && !serverModules[name].includes(other)).join('|')})/`,
        pathNot: '/session\\.guard\\.ts$',
      },
    })),
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    {
      name: 'core-imports-contracts-types-only',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/contracts', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-has-no-io',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'contracts-import-nobody',
      severity: 'error',
      from: { path: '^packages/contracts/src' },
      to: { path: '^(packages/(core|standins)|apps)/' },
    },
    {
      // a device speaks the protocols that core reads, which other programs were held against
      name: 'standins-import-contracts-alone',
      severity: 'error',
      from: { path: '^packages/standins/src', pathNot: '^packages/standins/src/device/' },
      to: { path: '^(packages/core|apps)/' },
    },
    { name: 'nothing-imports-server-or-web', severity: 'error', from: { pathNot: '^apps/(server|web|cli)/' }, to: { path: '^apps/' } },
    {
      name: 'apps-do-not-import-each-other',
      severity: 'error',
      from: { path: '^apps/([^/]+)/' },
      to: { path: '^apps/', pathNot: '^apps/$1/' },
    },
    ...subjects.map((subject) => ({
      name: `core-${subject}-knows-little`,
      comment: 'only crossing, change and tally may import all other subjects',
      severity: 'error',
      from: { path: `^packages/core/src/${subject}/`, pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/core/src/', pathNot: `^packages/core/src/(${[subject, ...mayUse[subject]].join('|')})/` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|\\.cache|\\.tmp-test)/' },
    tsPreCompilationDeps: 'specify',
    enhancedResolveOptions: {
      conditionNames: ['@underpass/source', 'import', 'node', 'default'],
      exportsFields: ['exports'],
    },
  },
};
