<script setup lang="ts">
import type { Component } from 'vue'
import Seen from '~/loft/kit/sheet/Seen.vue'
import type { Door } from '../kit/door'

/** The form for signing up as it is seen: what is asked is chosen by pressing it, and dragged into another order. */
const props = defineProps<{
  door: Door
  page: Component
  data: object
  tier: string
  width: number | null
  language?: string | undefined
}>()
const emit = defineEmits<{ fact: [id: string]; follow: [path: string] }>()
const dragged = ref<string | null>(null)
const factOf = (label: HTMLElement) =>
  label.querySelector<HTMLInputElement>('[name^="fact-"]')?.name.slice('fact-'.length) ?? null
const labelAt = (event: Event) =>
  event.composedPath().find((one): one is HTMLElement => one instanceof HTMLElement && one.matches('label[data-fact]'))
let heard: HTMLElement | undefined
function laid(root: HTMLElement) {
  for (const label of root.querySelectorAll<HTMLElement>('form label')) {
    const id = factOf(label)
    if (!id || !props.door.mayChange.value) continue
    label.dataset.fact = id
    label.draggable = true
  }
  show()
  if (heard === root) return
  heard = root
  const over = (label?: HTMLElement) =>
    root.querySelectorAll('.dropped-before').forEach(one => one !== label && one.classList.remove('dropped-before'))
  root.addEventListener('dragstart', event => {
    dragged.value = labelAt(event)?.dataset.fact ?? null
    event.dataTransfer?.setData('text/plain', dragged.value ?? '')
  })
  root.addEventListener('dragover', event => {
    const label = labelAt(event)
    if (!dragged.value || !label) return
    event.preventDefault()
    over(label)
    label.classList.add('dropped-before')
  })
  root.addEventListener('dragend', () => over())
  root.addEventListener('drop', event => {
    event.preventDefault()
    over()
    const to = labelAt(event)?.dataset.fact
    const id = dragged.value
    dragged.value = null
    if (!id || !to || id === to) return
    const list = props.door.facts.value.map(one => one.fact)
    // Onto the one right after it: behind that one.
    const after = list.indexOf(to) === list.indexOf(id) + 1
    void props.door.moveFact(id, after ? (list[list.indexOf(to) + 1] ?? null) : to)
  })
}
const show = () =>
  heard
    ?.querySelectorAll<HTMLElement>('label[data-fact]')
    .forEach(one => one.classList.toggle('asked', one.dataset.fact === props.door.opened.value))
watch(props.door.opened, show)
function press(event: MouseEvent) {
  const id = labelAt(event)?.dataset.fact
  if (!id) return
  event.preventDefault()
  emit('fact', id)
}
</script>

<template>
  <Seen
    path="/sign-up"
    own="entrance"
    v-bind="{ page, data, tier, width, language }"
    @laid="laid"
    @press="press"
    @follow="emit('follow', $event)">
    <template #hint><span v-if="door.facts.value.length > 1">Drag what is asked into another order.</span></template>
  </Seen>
</template>
