<script setup lang="ts">
import { damageWords } from '~~/core/files/stored-file'
import { useLoft } from '~/loft/core/loft'

/** Downloads nobody can fetch, since the bytes of their files are not what they were. In every place, until they are back. */
const loft = useLoft()
const most = 4
const damaged = computed(() =>
  (loft.data?.damaged ?? []).map(one => ({
    ...one,
    title: (loft.index.get('download', one.id) as { title?: string } | undefined)?.title ?? one.id,
  })),
)
</script>

<template>
  <p v-if="damaged.length" role="status" class="border-b border-line bg-weld-pale px-4 py-1.5 text-[13.5px] text-weld">
    <b>{{ damaged.length === 1 ? 'A file is' : `${damaged.length} files are` }} not sent to anybody:</b>
    <template v-for="(one, i) in damaged.slice(0, most)" :key="`${one.id} ${one.file}`"
      >{{ i ? ',' : '' }}
      <NuxtLink class="underline" :to="`/loft/site?thing=download:${encodeURIComponent(one.id)}`">{{
        one.title
      }}</NuxtLink>
      {{ damageWords[one.damage] }}</template
    ><template v-if="damaged.length > most"> and {{ damaged.length - most }} more</template>. Bring
    {{ damaged.length === 1 ? 'it' : 'them' }} again, or bring the folder back from a backup.
  </p>
</template>
