/** Charts draw on a canvas, which a made-up document has not; what they are given is what is tested. */
import { defineComponent, h } from 'vue'

export const Bar = defineComponent({
  name: 'Bar',
  props: { data: { type: Object, required: true }, options: { type: Object, required: true } },
  setup: () => () => h('canvas'),
})
