/** Which nodes of a directed graph lie on a ring: Tarjan's strongly connected components (SIAM J. Comput. 1972). */
export function ringMembers<N>(edges: ReadonlyMap<N, Iterable<N>>): Set<N> {
  const order = new Map<N, number>()
  const low = new Map<N, number>()
  const stack: N[] = []
  const stacked = new Set<N>()
  const onRing = new Set<N>()

  const close = (node: N) => {
    const component: N[] = []
    let member: N
    do {
      member = stack.pop()!
      stacked.delete(member)
      component.push(member)
    } while (member !== node)
    const alone = component.length === 1 && ![...(edges.get(node) ?? [])].includes(node)
    if (!alone) for (const one of component) onRing.add(one)
  }

  const visit = (node: N) => {
    order.set(node, order.size)
    low.set(node, order.get(node)!)
    stack.push(node)
    stacked.add(node)
    for (const next of edges.get(node) ?? []) {
      if (!edges.has(next)) continue
      if (!order.has(next)) visit(next)
      if (stacked.has(next)) low.set(node, Math.min(low.get(node)!, low.get(next)!))
    }
    if (low.get(node) === order.get(node)) close(node)
  }

  for (const node of edges.keys()) if (!order.has(node)) visit(node)
  return onRing
}
