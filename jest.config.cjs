const swc = (jsx) => [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: jsx },
      transform: { react: { runtime: 'automatic' } },
      target: 'es2022',
    },
    module: { type: 'commonjs' },
  },
]
// Some packages ship ES modules only; they are compiled like our own code.
const ours = ['/node_modules/(?!(@noble|fflate|aedes|@fresh-coat)/)']

/** core is pure; server runs against a real PostgreSQL that bin/test (or DATABASE_URL) provides; components in a page that is none. */
module.exports = {
  // How long something takes is no matter of tests: on a busy machine a page that is none takes its time. Jest heeds this here alone.
  testTimeout: 30_000,
  projects: [
    {
      displayName: 'core',
      rootDir: 'core',
      testEnvironment: 'node',
      transform: { '^.+\\.(t|j)s$': swc(false) },
      transformIgnorePatterns: ours,
    },
    {
      displayName: 'server',
      rootDir: '.',
      roots: [
        '<rootDir>/server',
        '<rootDir>/demo',
        '<rootDir>/scripts',
        '<rootDir>/standins',
        '<rootDir>/field',
        '<rootDir>/link',
      ],
      testEnvironment: 'node',
      transform: { '^.+\\.(t|j)sx?$': swc(true) },
      transformIgnorePatterns: ours,
      moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1' },
    },
    {
      displayName: 'components',
      rootDir: '.',
      roots: ['<rootDir>/components', '<rootDir>/workers'],
      testEnvironment: 'node',
      transform: { '^.+\\.(t|j)sx?$': swc(true) },
      transformIgnorePatterns: ours,
      moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1' },
    },
  ],
}
