<script setup lang="ts">
/** A woven pattern drawn as SVG, so that a picture is part of the page it stands in and passes the same gate. */
const props = defineProps<{ pattern: string; palette: string; alt: string }>()

const palettes: Record<string, [string, string, string]> = {
  madder: ['#7d2f1f', '#a8503a', '#d9a184'],
  weld: ['#8f6a12', '#c69a2a', '#ecd694'],
  woad: ['#22445a', '#3f6d88', '#9dbccb'],
  moss: ['#3f5522', '#6c8540', '#bccb95'],
  fleece: ['#a89c86', '#cabfa8', '#ece5d6'],
  /** The site's own two colours. */
  site: ['var(--madder)', 'var(--soft)', 'var(--paper)'],
}
/** Which of the three shades a thread crossing takes, by column and row. */
const drafts: Record<string, (x: number, y: number) => number> = {
  plain: (x, y) => (x + y) % 2,
  twill: (x, y) => ((x + y) % 4 < 2 ? 0 : 1),
  herringbone: (x, y) => ((Math.floor(x / 8) % 2 ? x + y : x - y + 400) % 4 < 2 ? 0 : 2),
  diamond: (x, y) => [0, 1, 2, 1][(Math.abs((x % 16) - 8) + Math.abs((y % 16) - 8)) % 4]!,
  gansey: (x, y) => (x % 12 < 2 ? 2 : (Math.floor(y / 2) + (x % 12)) % 5 === 0 ? 0 : 1),
}
const size = 6
const shades = computed(() => palettes[props.palette] ?? palettes.fleece!)
const paths = computed(() => {
  const draft = drafts[props.pattern] ?? drafts.plain!
  return [0, 1, 2].map(shade => {
    let path = ''
    for (let y = 0; y < 16; y++)
      for (let x = 0; x < 48; x++)
        if (draft(x, y) === shade) path += `M${x * size} ${y * size}h${size - 0.6}v${size - 0.6}h-${size - 0.6}z`
    return path
  })
})
const id = useId()
</script>

<template>
  <svg
    class="weave"
    :role="alt ? 'img' : undefined"
    :aria-label="alt || undefined"
    :aria-hidden="alt ? undefined : 'true'"
    viewBox="0 0 1152 192"
    preserveAspectRatio="xMidYMid slice">
    <defs>
      <pattern :id="id" :width="48 * size" :height="16 * size" patternUnits="userSpaceOnUse">
        <rect width="100%" height="100%" :fill="shades[0]" />
        <path v-for="(path, i) in paths" :key="i" :d="path" :fill="shades[i]" />
      </pattern>
    </defs>
    <rect width="1152" height="192" :fill="`url(#${id})`" />
  </svg>
</template>
