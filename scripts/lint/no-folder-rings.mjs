/**
 * An ESLint rule: folders import each other one way, types included. The graph of all folders is read once; an import
 * is reported where its folder can be reached back from the one it imports.
 */
import { folderGraph, folderOf, importedFile, isTest, wayBetween } from './imports-of.mjs'
import { importVisitor } from './import-visitor.mjs'

let graph
export default {
  meta: { type: 'problem', schema: [], messages: { ring: 'A ring of folders: {{way}}.' } },
  create(context) {
    const from = folderOf(context.filename)
    if (!from || isTest(context.filename)) return {}
    graph ??= folderGraph()
    return importVisitor((node, source) => {
      const to = importedFile(context.filename, source)
      const folder = to && folderOf(to)
      if (!folder || folder === from) return
      const back = wayBetween(graph, folder, from)
      if (back) context.report({ node, messageId: 'ring', data: { way: [from, ...back].join(' → ') } })
    })
  },
}
