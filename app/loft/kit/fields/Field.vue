<script setup lang="ts">
/** A control with its name before it, what helps to fill it in, and what is wrong with what stands in it. */
defineProps<{ label?: string; hint?: string; problem?: string }>()
const id = useId()
const root = ref<HTMLElement | null>(null)
/** Both are read out with the control, whichever stands in the slot, and neither is part of its name. */
const describe = () => root.value?.querySelector('input, select, textarea')?.setAttribute('aria-describedby', id)
onMounted(describe)
onUpdated(describe)
</script>

<template>
  <div ref="root" class="field">
    <label
      ><span
        ><slot name="label">{{ label }}</slot></span
      ><slot
    /></label>
    <span :id="id" class="grid gap-0.5 empty:hidden"
      ><small v-if="hint" class="text-[12.5px] text-soft">{{ hint }}</small
      ><span v-if="problem" class="wrong" role="alert">{{ problem }}</span></span
    >
  </div>
</template>
