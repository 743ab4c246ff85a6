const shared = {
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        module: { type: 'es6' },
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  moduleNameMapper: { '\\.css$': '<rootDir>/../web/src/testing/empty.ts' },
};
export default {
  // Real processes and files on a busy machine of two cores.
  testTimeout: 120_000,
  projects: [
    {
      ...shared,
      displayName: 'core',
      rootDir: 'core',
      testEnvironment: 'node',
      moduleNameMapper: {},
      testMatch: ['**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'server',
      rootDir: 'server',
      testEnvironment: 'node',
      moduleNameMapper: {},
      testMatch: ['**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'words',
      rootDir: 'words',
      testEnvironment: 'node',
      moduleNameMapper: {},
      testMatch: ['**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'web',
      rootDir: 'web',
      testEnvironment: '<rootDir>/src/testing/environment.mjs',
      setupFilesAfterEnv: ['<rootDir>/src/testing/patience.ts'],
    },
  ],
};
