/** What a control within a field takes of what the field is given. */
import { computed, getCurrentInstance, useAttrs } from 'vue'

/** `rest`: what goes on to the control; `isBound`: it is bound with `v-model`, rather than given a value and heard. */
export function useControl() {
  const attrs = useAttrs()
  const rest = computed(() => {
    const { class: _class, value: _value, ...more } = attrs
    return more
  })
  return { attrs, rest, isBound: 'modelValue' in (getCurrentInstance()?.vnode.props ?? {}) }
}
