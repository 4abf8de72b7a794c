import prettier from 'eslint-config-prettier'
import withNuxt from './.nuxt/eslint.config.mjs'
import noFolderRings from './scripts/lint/no-folder-rings.mjs'
import roomsApart from './scripts/lint/rooms-apart.mjs'

// Node 20 has no Object.groupBy, which @nuxt/eslint's config calls; goes with the step to Node 22.
Object.groupBy ??= (items, keyOf) =>
  Array.from(items).reduce((groups, item, i) => {
    ;(groups[keyOf(item, i)] ??= []).push(item)
    return groups
  }, Object.create(null))

const outside = message => ({
  group: ['#*', 'nuxt*', 'vue*', 'h3', 'drizzle-orm*', 'postgres', 'node:*', '**/server/**', '**/app/**', '**/cli/**'],
  message,
})

const typesOfServer = {
  group: ['**/server/**'],
  allowTypeImports: true,
  message: 'Screens import types of the server, never its code.',
}

export default withNuxt(
  { rules: { 'vue/multi-word-component-names': 'off' } },
  // Imports point one way: nothing of the core knows a front, a database or a clock.
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts', 'core/**/*.bench.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [outside('The core imports nothing but zod, ipaddr.js and itself.')] },
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Time comes in as an argument.' },
      ],
    },
  },
  {
    files: ['app/**/*.{ts,vue}'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns: [typesOfServer] }] },
  },
  {
    files: ['app/loft/**/*.{ts,vue}'],
    ignores: ['app/loft/core/loft-api.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**'],
              message: 'What the routes answer with has its names in app/loft/core/route-answers.ts.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['cli/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/app/**', '**/server/api/**', '**/server/routes/**'],
              message: 'The command uses the core and the services.',
            },
          ],
        },
      ],
    },
  },
  // One place opens transactions: what joins one, and what is a part of one, is told apart there.
  {
    files: ['server/**/*.ts', 'cli/**/*.ts', 'scripts/**/*.ts'],
    ignores: ['server/db/turn.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.property.name='transaction']",
          message: 'Transactions are opened by `inTransaction` and `savepoint`.',
        },
      ],
    },
  },
  // Folders import each other one way, and rooms of the console not at all.
  {
    files: ['core/**/*.ts', 'server/**/*.ts', 'app/**/*.{ts,vue}'],
    plugins: { house: { rules: { 'no-folder-rings': noFolderRings, 'rooms-apart': roomsApart } } },
    rules: { 'house/no-folder-rings': 'error', 'house/rooms-apart': 'error' },
  },
  // How it is laid out is the formatter's business (`npm run format`).
  prettier,
)
