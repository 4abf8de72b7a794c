/** Where the parts of a page stand, and moving, copying and removing them in the draft so that it can be taken back. */
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { BlockKind } from '~~/core/blocks/blocks'
import type { Block, Standing } from '~~/core/kinds/block'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { appBlockOf, appBlocks } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import type { LookedThing } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import { partName } from './part-words'

const placeOf = (block: Block): [kind: string, id: string] => Object.entries(block.in)[0] as [string, string]
const params = (key: string, kind: VersionedThing = 'block') => ({ params: { kind, key } })

export function usePageParts() {
  const loft = useLoft()
  const writing = useWriting()

  const part = (id: string) => loft.index.get('block', id)
  /** Those that stand where it stands, in their order. */
  const beside = (block: Block) => loft.index.standingIn(...placeOf(block))
  const nextOf = (block: Block) => {
    const all = beside(block)
    return all[all.findIndex(one => one.id === block.id) + 1]?.id ?? null
  }
  /** The one right before it, where there is one. */
  const before = (id: string): string | undefined => {
    const all = beside(part(id)!)
    return all[all.findIndex(one => one.id === id) - 1]?.id
  }
  const holderOf = (block: Block) => ('block' in block.in ? part(block.in.block) : undefined)
  const freshKey = (holder: string) => {
    const base = holder.slice(0, 70)
    for (;;) {
      const key = `${base}-${Math.random().toString(36).slice(2, 7)}`
      if (!part(key)) return key
    }
  }

  /** A new part after another, or last where there is none. Answers its id. */
  async function add(kind: BlockKind, place: Standing, after?: string): Promise<string> {
    const key = freshKey(Object.values(place)[0] as string)
    const following = after === undefined ? null : nextOf(part(after)!)
    await writing.act(
      'POST things/:kind',
      { params: { kind: 'block' }, body: { id: key, kind, in: place, body: appBlocks[kind].first ?? {} } },
      { words: `a new ${appBlocks[kind].name}`, back: () => loft.act('DELETE things/:kind/:key', params(key)) },
    )
    if (following !== null)
      await loft.act('POST things/:kind/:key/move', { ...params(key), body: { before: following } })
    return key
  }

  /** Among those beside it. */
  async function move(id: string, way: -1 | 1): Promise<void> {
    const block = part(id)!
    const all = beside(block)
    const at = all.findIndex(one => one.id === id)
    const target = at + way
    if (target < 0 || target >= all.length) return
    await moveBefore(id, (way < 0 ? all[target] : all[target + 1])?.id ?? null)
  }
  async function moveBefore(id: string, before: string | null): Promise<void> {
    const was = nextOf(part(id)!)
    await writing.act(
      'POST things/:kind/:key/move',
      { ...params(id), body: { before } },
      {
        words: 'a move',
        back: () => loft.act('POST things/:kind/:key/move', { ...params(id), body: { before: was } }),
      },
    )
  }

  /** Elsewhere, before another that stands there or last. */
  async function moveTo(id: string, place: Standing, before: string | null): Promise<void> {
    const block = part(id)!
    const [was, next] = [block.in, nextOf(block)]
    const put = async (to: Standing, at: string | null) => {
      await loft.act('PUT things/:kind/:key', { ...params(id), body: { in: to } })
      return loft.act('POST things/:kind/:key/move', { ...params(id), body: { before: at } })
    }
    await put(place, before)
    writing.step({ words: 'a move', back: () => put(was, next), again: () => put(place, before) })
  }
  /** Out of the group it stands in, to behind it. */
  async function moveOut(id: string): Promise<void> {
    const around = holderOf(part(id)!)
    if (around) await moveTo(id, around.in, nextOf(around))
  }
  /** The group right before it, which it can be moved into. */
  function groupBefore(id: string): Block | undefined {
    const block = part(id)
    if (!block) return undefined
    const all = beside(block)
    const before = all[all.findIndex(one => one.id === id) - 1]
    return before && appBlockOf(before.kind ?? '').holds ? before : undefined
  }
  async function moveIn(id: string): Promise<void> {
    const group = groupBefore(id)
    if (group) await moveTo(id, { block: group.id }, null)
  }

  /** Everything that stands in one, and itself: those around before those within. */
  function withInside(id: string): Block[] {
    const block = part(id)
    return block ? [block, ...loft.index.standingIn('block', id).flatMap(one => withInside(one.id))] : []
  }
  /** Gates that stand on these. */
  const gatesOn = (ids: ReadonlySet<string>) =>
    (loft.draft.gates ?? []).filter(gate => 'block' in gate.on && ids.has(gate.on.block))

  /** With all that stands in it and the gates on it. Taken back, all of it is there again. */
  async function remove(id: string): Promise<void> {
    await loft.settled()
    const going = withInside(id)
    const names = going.map(one => ({ kind: 'block' as const, key: one.id }))
    await writing.read(names)
    const kept = names.flatMap(name => writing.kept(name) ?? [])
    const gates = gatesOn(new Set(going.map(one => one.id)))
    const next = nextOf(going[0]!)
    const takeOut = async () => {
      for (const gate of gates) loft.change('gate', gate.id, null)
      await loft.settled()
      return loft.act('DELETE things/:kind/:key', params(id))
    }
    await takeOut()
    writing.step({
      words: `the removal of ${partName({ ...kept[0]?.thing })}`,
      back: async () => {
        for (const one of kept) await restore(one)
        await loft.act('POST things/:kind/:key/move', { ...params(id), body: { before: next } })
        for (const gate of gates) loft.change('gate', gate.id, gate)
        await loft.settled()
      },
      again: takeOut,
    })
  }
  /** A removed thing as it was: what is live comes back first, then what the draft had made of it. */
  async function restore({ kind, id, thing }: LookedThing): Promise<void> {
    if (loft.base.get(kind, id)) {
      await loft.undo(kind, id)
      await loft.act('PUT things/:kind/:key', { ...params(id, kind), body: { ...thing } })
    } else await loft.act('POST things/:kind', { params: { kind }, body: { id, ...thing } })
  }

  /** With everything inside and its gates; it comes right after. Answers its id. */
  async function copy(id: string): Promise<string> {
    await loft.settled()
    const block = part(id)!
    const key = freshKey(id.replace(/-[a-z0-9]{5}$/, ''))
    const next = nextOf(block)
    await writing.act(
      'POST things/:kind/:key/copy',
      { ...params(id), body: { id: key } },
      { words: 'a copy', back: () => dropWithGates(key) },
    )
    if (next !== null) await loft.act('POST things/:kind/:key/move', { ...params(key), body: { before: next } })
    return key
  }
  async function dropWithGates(id: string) {
    for (const gate of gatesOn(new Set(withInside(id).map(one => one.id)))) loft.change('gate', gate.id, null)
    await loft.settled()
    return loft.act('DELETE things/:kind/:key', params(id))
  }

  const fresh = (id: string) => freshKey(id.replace(/-[a-z0-9]{5}$/, ''))
  /** Put before another that stands where it does. */
  const putBefore = (key: string, before: string | null) =>
    loft.act('POST things/:kind/:key/move', { ...params(key), body: { before } })
  const shared = (key: string, shares: string, place: Standing) =>
    loft.act('POST things/:kind', {
      params: { kind: 'block' },
      body: { id: key, kind: 'shared', shares, in: place, body: {} },
    })
  const copied = (of: string, key: string, place: Standing) =>
    loft.act('POST things/:kind/:key/copy', { ...params(of), body: { id: key, in: place } })
  const drop = (key: string) => loft.act('DELETE things/:kind/:key', params(key))
  const shelf: Standing = { frame: 'shelf' }
  const onShelf = () => loft.index.standingIn('frame', 'shelf')
  /** Where a part of the shelf stands. */
  const usesOf = (id: string) => [...loft.index.all('block').values()].filter(one => one.shares === id)

  /** What it was stands on the shelf from now on, and a part that shows it where it stood. Answers the latter. */
  async function share(id: string): Promise<string> {
    await loft.settled()
    const block = part(id)!
    const [place, next, key] = [block.in, nextOf(block), fresh(id)]
    const make = async () => {
      await loft.act('PUT things/:kind/:key', { ...params(id), body: { in: shelf } })
      const made = await shared(key, id, place)
      return next === null ? made : putBefore(key, next)
    }
    await make()
    const back = async () => {
      await drop(key)
      await loft.act('PUT things/:kind/:key', { ...params(id), body: { in: place } })
      return putBefore(id, next)
    }
    writing.step({ words: 'the sharing of a part', back, again: make })
    return key
  }
  /** In place of what is shared, a copy that is its own, with the same gates. Answers its id. */
  async function makeOwn(id: string): Promise<string> {
    await loft.settled()
    const block = part(id)!
    const [place, key, of] = [block.in, fresh(id), block.shares!]
    const make = async () => {
      await copied(of, key, place)
      await putBefore(key, id)
      return drop(id)
    }
    const next = nextOf(block)
    await make()
    const back = async () => {
      await dropWithGates(key)
      const made = await shared(id, of, place)
      return next === null ? made : putBefore(id, next)
    }
    writing.step({ words: 'a copy of its own', back, again: make })
    return key
  }
  /** A copy elsewhere, with everything inside and its gates. Answers its id. */
  async function copyTo(id: string, place: Standing, after?: string): Promise<string> {
    await loft.settled()
    const key = fresh(id)
    const next = after === undefined ? null : nextOf(part(after)!)
    const make = async () => {
      const made = await copied(id, key, place)
      return next === null ? made : putBefore(key, next)
    }
    await make()
    writing.step({ words: 'a copy', back: () => dropWithGates(key), again: make })
    return key
  }
  /** The same part of the shelf here too. Answers the id of what shows it. */
  async function shareHere(id: string, place: Standing, after?: string): Promise<string> {
    await loft.settled()
    const key = fresh(id)
    const next = after === undefined ? null : nextOf(part(after)!)
    const make = async () => {
      const made = await shared(key, id, place)
      return next === null ? made : putBefore(key, next)
    }
    await make()
    writing.step({ words: 'a shared part', back: () => drop(key), again: make })
    return key
  }

  /** A group around one, with a gate of its own once it is given one. Answers its id. */
  async function wrap(ids: readonly string[]): Promise<string> {
    await loft.settled()
    const blocks = ids.map(id => part(id)!)
    const first = blocks[0]!
    const next = nextOf(blocks.at(-1)!)
    const key = freshKey(Object.values(first.in)[0] as string)
    const make = async () => {
      await loft.act('POST things/:kind', {
        params: { kind: 'block' },
        body: { id: key, kind: 'group', in: first.in, body: {} },
      })
      await loft.act('POST things/:kind/:key/move', { ...params(key), body: { before: first.id } })
      let last
      for (const one of blocks)
        last = await loft.act('PUT things/:kind/:key', { ...params(one.id), body: { in: { block: key } } })
      return last
    }
    const back = async () => {
      for (const one of blocks) {
        await loft.act('PUT things/:kind/:key', { ...params(one.id), body: { in: first.in } })
        await loft.act('POST things/:kind/:key/move', { ...params(one.id), body: { before: next } })
      }
      return dropWithGates(key)
    }
    await make()
    writing.step({ words: 'a group around it', back, again: make })
    return key
  }
  /** What stands in a group stands where it stood. Only where no gate is lost by it. */
  async function unwrap(id: string): Promise<void> {
    await loft.settled()
    const group = part(id)!
    const inner = loft.index.standingIn('block', id)
    for (const one of inner) {
      await loft.act('PUT things/:kind/:key', { ...params(one.id), body: { in: group.in } })
      await loft.act('POST things/:kind/:key/move', { ...params(one.id), body: { before: id } })
    }
    await remove(id)
  }

  /** What it is becomes the first of several, with its gate; a second, to be written, is for everybody else. */
  async function giveOthers(
    id: string,
    makeSecond?: (group: string, key: string) => Promise<void>,
  ): Promise<{ group: string; second: string }> {
    const group = await wrap([id])
    const second = freshKey(id.replace(/-[a-z0-9]{5}$/, ''))
    const make = async () => {
      await loft.act('PUT things/:kind/:key', { ...params(group), body: { oneOf: true } })
      if (makeSecond) return makeSecond(group, second)
      await loft.act('POST things/:kind', {
        params: { kind: 'block' },
        body: { id: second, kind: 'text', in: { block: group }, body: appBlocks.text.first },
      })
    }
    await make()
    const back = async () => {
      await dropWithGates(second)
      return loft.act('PUT things/:kind/:key', { ...params(group), body: { oneOf: null } })
    }
    writing.step({ words: 'something else for the others', back, again: make })
    return { group, second }
  }

  /** Parts copied and inverted by hand become alternatives of one place; the last keeps no gate. */
  async function join({ parts: ids, dropped }: InvertedCopies): Promise<string> {
    const gate = (loft.draft.gates ?? []).find(one => one.id === dropped)!
    const inOrder = loft.index
      .standingIn(...placeOf(part(ids[0]!)!))
      .map(one => one.id)
      .filter(one => ids.includes(one))
    const group = await wrap(inOrder)
    const make = async () => {
      await loft.act('PUT things/:kind/:key', { ...params(group), body: { oneOf: true } })
      await loft.act('POST things/:kind/:key/move', { ...params(ids.at(-1)!), body: { before: null } })
      loft.change('gate', dropped, null)
      await loft.settled()
    }
    await make()
    const back = async () => {
      loft.change('gate', dropped, gate)
      await loft.settled()
      await loft.act('PUT things/:kind/:key', { ...params(group), body: { oneOf: null } })
    }
    writing.step({ words: 'the joining of parts', back, again: make })
    return group
  }

  return {
    part,
    beside,
    before,
    holderOf,
    add,
    move,
    moveOut,
    moveIn,
    groupBefore,
    gatesOn,
    remove,
    copy,
    wrap,
    unwrap,
    withInside,
    giveOthers,
    join,
    onShelf,
    usesOf,
    share,
    makeOwn,
    copyTo,
    shareHere,
    fresh,
    putBefore,
    dropWithGates,
  }
}
