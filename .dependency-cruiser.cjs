/** Imports go only downwards (docs/decisions/0001): app → ui, cases, contracts; ui → contracts, core; and so on. */
const layer = (from, allowed) => ({
  name: `${from}-imports-only-${allowed.join('-') || 'nothing'}`,
  severity: 'error',
  from: { path: `^${from}/`, pathNot: '\\.test\\.tsx?$' },
  to: {
    path: '^(app|ui|contracts|cases|core|store|exchange|demo|ops|standins)/',
    pathNot: `^(${[from, ...allowed].join('|')})/`,
  },
});

module.exports = {
  forbidden: [
    layer('app', ['ui', 'cases', 'contracts']),
    layer('ui', ['contracts', 'core']),
    layer('contracts', ['core']),
    layer('cases', ['core', 'store', 'exchange', 'contracts']),
    layer('store', ['core', 'contracts']),
    layer('exchange', ['core', 'contracts']),
    layer('core', []),
    layer('demo', ['core', 'cases', 'store', 'contracts']),
    layer('standins', []),
    {
      // A file of somebody's is opened by a worker, in a process that may be ended.
      name: 'whoever-answers-requests-reads-no-files',
      severity: 'error',
      from: { path: '^app/', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^exchange/(source|archive|rows|recognise|readRecords|saft)\\.ts$', reachable: true },
    },
    {
      // What use cases are made of is not called by a route.
      name: 'routes-call-use-cases',
      severity: 'error',
      from: { path: '^app/' },
      to: { path: '^cases/(balances|loads/loading)/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
