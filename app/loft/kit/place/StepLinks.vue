<script setup lang="ts">
/** The first steps in their order, each leading where it is done; `slim` names only the one that is next. */
defineProps<{ steps: readonly Step[]; next: Step | undefined; slim?: boolean; named(step: Step): string }>()
interface Step {
  key: string
  title: string
  href: string
  isDone: boolean
}
</script>

<template>
  <ol>
    <li v-for="(step, i) in steps" :key="step.key">
      <NuxtLink
        :to="step.href"
        class="step"
        :class="[slim ? 'slim' : '', step.isDone ? 'done' : step === next ? 'next' : '']"
        :aria-current="!slim && step === next ? 'step' : undefined"
        :aria-label="named(step)"
        ><b>{{ i + 1 }}</b
        ><span v-if="!slim || step === next">{{ step.title }}</span></NuxtLink
      >
    </li>
  </ol>
</template>
