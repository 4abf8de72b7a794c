<script setup lang="ts">
/** A form of the site: works without a script, and says at its head what is wrong with it as a whole. */
defineProps<{ problem?: string | undefined; action?: string; hidden?: Record<string, string> }>()
</script>

<template>
  <form method="post" :action="action" class="form" novalidate>
    <p v-if="problem" class="problem" role="alert">
      {{ problem }}
    </p>
    <input v-for="(value, name) in hidden ?? {}" :key="name" type="hidden" :name="String(name)" :value="value" />
    <slot />
  </form>
</template>
