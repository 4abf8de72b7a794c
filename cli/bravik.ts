/** The `bravik` command. Exit codes: 0 all well, 1 something failed or is not valid, 2 the call or a file is not right. */
import { writeFileSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { defineCommand, runMain } from 'citty'
import { isObject } from '../core/shapes'
import { validateRulebook } from '../core/check/validate'
import { emptySite, siteSchema } from '../core/site/site'
import { FileProblem, readJsonFile } from './read-file'
import { basketLines, quote, quoteBasket, quoteLines, readLines, readTo } from './quote'
import { counts, readCaseFile, verifiedLines, verifyFile } from './verify'
import type { Rulebook } from '../core/rulebook/rulebook'

// What needs a database or the server is read by the commands that need it: the others start in half the time.
const backups = () => import('./backup')
const exports = () => import('./export')
const folders = () => import('./folder')

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')
const json = { type: 'boolean', description: 'Print the result as JSON' } as const

/** Files are named from where the command was called, not from the project. */
const from = (file: string) => resolve(process.env.BRAVIK_CALLED_FROM ?? process.cwd(), file)

function print(asJson: boolean, data: unknown, lines: string[]): void {
  console.log(asJson ? JSON.stringify(data, null, 2) : lines.join('\n'))
}

function editionOf(given: string | undefined): number | 'live' | 'draft' {
  const edition = given === undefined ? 'live' : given === 'draft' ? 'draft' : Number(given)
  if (typeof edition === 'number' && !Number.isInteger(edition))
    throw new FileProblem(`--edition takes a number or draft, not “${given}”.`)
  return edition
}

async function guarded(work: () => number | Promise<number>): Promise<void> {
  try {
    process.exitCode = await work()
  } catch (error) {
    if (!(error instanceof FileProblem)) throw error
    console.error(error.message)
    process.exitCode = 2
  }
}

const verify = defineCommand({
  meta: { name: 'verify', description: 'Run case files and compare every expected answer' },
  args: { file: { type: 'positional', description: 'Case files', required: true }, json },
  run: ({ args }) =>
    guarded(() => {
      const all = args._.map(file => verifyFile(from(file), Date.now()))
      const { passed, failed } = counts(all)
      print(args.json === true, { passed, failed, files: all }, verifiedLines(all))
      return failed ? 1 : 0
    }),
})

const check = defineCommand({
  meta: { name: 'check', description: 'Validate a rulebook, or the rulebook and site of a case file' },
  args: { rulebook: { type: 'positional', description: 'A rulebook or case file', required: true }, json },
  run: ({ args }) =>
    guarded(() => {
      const document = readJsonFile(from(args.rulebook))
      const isCase = isObject(document) && document.bravik === 'case/1'
      const site = siteSchema.safeParse(isCase ? document.site : siteSchema.parse(emptySite))
      if (!site.success) throw new FileProblem(`${args.rulebook}: /site: ${site.error.issues[0]?.message}`)
      const issues = validateRulebook(isCase ? document.rulebook : document, site.data)
      print(args.json === true, { valid: issues.length === 0, issues }, [
        ...issues.map(
          issue =>
            `${args.rulebook}: ${issue.at || '/'}: ${issue.message}${issue.found === undefined ? '' : ` Found ${JSON.stringify(issue.found)}.`}`,
        ),
        issues.length ? `${issues.length} ${issues.length === 1 ? 'issue' : 'issues'}` : 'valid',
      ])
      return issues.length ? 1 : 0
    }),
})

const exporting = defineCommand({
  meta: { name: 'export', description: 'Write the running site as a case file without cases' },
  args: {
    file: { type: 'positional', description: 'The file to write', required: true },
    edition: { type: 'string', description: 'A number, or draft; default: the live one', valueHint: 'N|draft' },
    json,
  },
  run: ({ args }) =>
    guarded(async () => {
      const { databaseUrl, exportCase } = await exports()
      const exported = await exportCase(databaseUrl(root), editionOf(args.edition))
      writeFileSync(from(args.file), `${JSON.stringify(exported, null, 1)}\n`)
      const gates = (exported.rulebook.gates as unknown[] | undefined)?.length ?? 0
      print(args.json === true, { file: args.file, gates }, [
        `${args.file}: ${gates} gates, ${exported.site.pages?.length ?? 0} pages, ${Object.keys(exported.visitors).length} visitors`,
      ])
      return 0
    }),
})

/** Where the site keeps what is not in its database. */
const dataFolder = resolve(process.env.BRAVIK_DATA ?? resolve(root, '.data'))
const backupFile = { type: 'positional', description: 'The backup, a tar file', required: true } as const

const damagedLines = (damaged: readonly string[]) =>
  damaged.map(
    path => `Not as it was when it was kept, or missing: ${path}. Give it once more, or take it from another backup.`,
  )

const backingUp = defineCommand({
  meta: { name: 'backup', description: 'Write database, secret and files into one file, and read it back' },
  args: { file: backupFile, json },
  run: ({ args }) =>
    guarded(async () => {
      const { backup } = await backups()
      const written = await backup(dataFolder, from(args.file))
      print(args.json === true, written, [
        `${args.file}: written and read back (${written.parts.join(', ')})`,
        ...damagedLines(written.damaged),
      ])
      return written.damaged.length ? 1 : 0
    }),
})

const restoring = defineCommand({
  meta: { name: 'restore', description: 'Put a backup into an empty database and data folder' },
  args: { file: backupFile, json },
  run: ({ args }) =>
    guarded(async () => {
      const { restore } = await backups()
      const { at, damaged } = await restore(dataFolder, from(args.file))
      print(args.json === true, { at, damaged }, [
        `The site is as it was at ${at}. Start it with npm start.`,
        ...damagedLines(damaged),
      ])
      return damaged.length ? 1 : 0
    }),
})

const folder = { type: 'positional', description: 'A folder', required: true } as const

const taking = defineCommand({
  meta: { name: 'take', description: 'Write pages, posts, menus and frame as Markdown and YAML into a folder' },
  args: {
    dir: folder,
    edition: { type: 'string', description: 'A number, or draft; default: the live one', valueHint: 'N|draft' },
    json,
  },
  run: ({ args }) =>
    guarded(async () => {
      const { databaseUrl } = await exports()
      const { take } = await folders()
      const files = await take(databaseUrl(root), from(args.dir), editionOf(args.edition))
      print(args.json === true, { files }, [`${args.dir}: ${files.length} files`])
      return 0
    }),
})

const bringing = defineCommand({
  meta: { name: 'bring', description: 'Bring such a folder into the draft: all of it, or nothing' },
  args: { dir: folder, dry: { type: 'boolean', description: 'Say what it would do, and change nothing' }, json },
  run: ({ args }) =>
    guarded(async () => {
      const { databaseUrl } = await exports()
      const { bring, broughtLines } = await folders()
      const answer = await bring(databaseUrl(root), from(args.dir), args.dry === true)
      print(args.json === true, answer, broughtLines(answer, args.dry === true))
      return answer.issues.length ? 1 : 0
    }),
})

const quoting = defineCommand({
  meta: { name: 'quote', description: 'Say what somebody pays for a product or a basket, and how that came about' },
  args: {
    product: { type: 'positional', description: 'The id of a product', required: false },
    basket: { type: 'string', description: 'Several instead: fell-dk:2,niddy-noddy', valueHint: 'LINES' },
    as: { type: 'string', description: 'Whose price: a visitor of the file, or a tier; default: a guest' },
    quantity: { type: 'string', description: 'So many pieces of a product; default: 1', valueHint: 'N' },
    code: { type: 'string', description: 'Codes that are given, with commas between' },
    to: { type: 'string', description: 'Where a basket is sent: country or region, and postcode', valueHint: 'PLACE' },
    delivery: { type: 'string', description: 'What sending it costs without tax, in minor units', valueHint: 'N' },
    file: { type: 'string', description: 'A case file; default: the running site' },
    edition: {
      type: 'string',
      description: 'Of the running site: a number, or draft; default: the live one',
      valueHint: 'N|draft',
    },
    json,
  },
  run: ({ args }) =>
    guarded(async () => {
      if (!args.product === !args.basket) throw new FileProblem('quote takes the id of a product, or --basket.')
      const running = async () => {
        const { databaseUrl, exportCase } = await exports()
        return exportCase(databaseUrl(root), editionOf(args.edition))
      }
      const file = args.file ? readCaseFile(from(args.file)) : await running()
      const { records: _, ...site } = file.site
      const book = { rulebook: file.rulebook as unknown as Rulebook, site }
      const codes = (args.code ?? '').split(',').filter(Boolean)
      const world = { ...book, visitors: file.visitors, as: args.as, codes, nowMs: Date.now() }
      if (args.basket) {
        const sentTo = args.to === undefined ? {} : { sentTo: readTo(args.to) }
        const delivery = args.delivery === undefined ? {} : { delivery: Number(args.delivery) }
        const made = quoteBasket({ ...world, lines: readLines(args.basket), ...sentTo, ...delivery })
        print(args.json === true, made, basketLines(made, book))
        return 0
      }
      const quantity = args.quantity === undefined ? {} : { quantity: Number(args.quantity) }
      const made = quote({ ...world, product: args.product!, ...quantity })
      print(args.json === true, made, quoteLines(made, book))
      return 0
    }),
})

const commands = {
  verify,
  check,
  quote: quoting,
  export: exporting,
  backup: backingUp,
  restore: restoring,
  take: taking,
  bring: bringing,
}
const called = process.argv[2]
if (called === undefined || (!called.startsWith('-') && !Object.hasOwn(commands, called))) {
  console.error(
    called === undefined
      ? 'bravik: say what to do; --help lists the commands.'
      : `bravik: there is no command “${called}”; --help lists them.`,
  )
  process.exit(2)
}
runMain(
  defineCommand({
    meta: { name: 'bravik', description: 'Rules of who may find, open and buy what, checked' },
    subCommands: commands,
  }),
)
