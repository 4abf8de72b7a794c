<script setup lang="ts">
import { ownLookName } from '~~/core/looks/own-looks'
import type { OwnLook } from '~~/core/looks/own-looks'
import { useSheetRoot } from '~/loft/kit/sheet/sheet-root'

/** A part in one of the site's own looks, as it is made. */
const props = defineProps<{ look: OwnLook; properties: Record<string, string> }>()
const host = ref<HTMLElement | null>(null)
const inner = useSheetRoot(host, undefined, () => [props.look])
</script>

<template>
  <div ref="host" class="overflow-hidden rounded" inert aria-hidden="true" :style="properties">
    <Teleport v-if="inner" :to="inner">
      <div class="site" style="padding: 12px; font-size: 15px">
        <div class="accent" :class="ownLookName(look.id)" style="margin: 0">
          <p style="margin: 0">Words of a part, and a <a>link</a>.</p>
        </div>
      </div>
    </Teleport>
  </div>
</template>
