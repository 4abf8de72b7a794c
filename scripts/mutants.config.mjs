/** For `npm run mutants`: only the tests of the core, each change tried by the tests that come by it. */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'scripts/mutants.vitest.ts', related: false },
  plugins: ['@stryker-mutator/vitest-runner'],
  coverageAnalysis: 'perTest',
  // What is worked out once, when a module is loaded, would be tried by every test there is: `--ignoreStatic false` does.
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 20_000,
  disableTypeChecks: false,
  // What is said, and what is looked up by name, is not what decides.
  mutator: { excludedMutations: ['StringLiteral', 'Regex', 'ObjectLiteral', 'ArrayDeclaration'] },
  reporters: ['clear-text', 'progress-append-only'],
  clearTextReporter: { allowColor: false, reportTests: false, reportScoreTable: true },
  tempDirName: 'mutants-at-work',
  ignorePatterns: ['tsconfig.json', '.nuxt', '.output', '.data', 'docs', 'public', 'app/pages', 'patches'],
  allowConsoleColors: false,
}
