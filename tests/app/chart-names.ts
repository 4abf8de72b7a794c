/** Charts draw on a canvas, which a made-up document has not; what they are given is what is tested. */
import { defineComponent, h } from 'vue'

const canvas = (name: string) =>
  defineComponent({
    name,
    props: { data: { type: Object, required: true }, options: { type: Object, required: true } },
    setup: () => () => h('canvas'),
  })

export const Bar = canvas('Bar')
export const Line = canvas('Line')
