/** What an ESLint rule visits of every import, of now and of later: its node and what it names. */
export function importVisitor(check) {
  const visit = node => {
    if (typeof node.source?.value === 'string') check(node, node.source.value)
  }
  return {
    ImportDeclaration: visit,
    ExportNamedDeclaration: visit,
    ExportAllDeclaration: visit,
    ImportExpression: visit,
  }
}
