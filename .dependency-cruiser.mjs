/** Nothing imports what imports it, be it by types alone: each part can be read by itself. */
export default {
  forbidden: [{ name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } }],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'node_modules|/dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  },
};
