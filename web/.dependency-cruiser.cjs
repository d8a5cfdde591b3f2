// Which folder of the screens may use which: none uses one that uses it.
module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    { name: 'no-circle-of-folders', severity: 'error', scope: 'folder', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
}
