<script setup lang="ts">
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
const open = defineModel<boolean>('open', { required: true })
const keys = [
  ['/', 'Find anything: things, people, rules, places'],
  ['← ↑ → ↓', 'Move on the board'],
  ['Enter', 'Why: go to the reasons'],
  ['E', 'Edit the deciding gate'],
  ['W', 'The page in Site, as this tier'],
  ['1 – 9', 'In Site: as which tier; with Shift, the one beside'],
  ['↑ ↓', 'In Site: the part before or after; Enter writes in it, E says who gets it, + adds one'],
  ['Alt ← ↑ → ↓', 'In Site: moves a part, or a page in the list: up, down, out, in'],
  ['On the prices', 'Type a price as you would say it; Enter opens the offer, # where tiers differ, * the quantity'],
  ['In a text', 'Ctrl B bold, Ctrl I italic, Ctrl K link; E with words marked says whom they are for'],
  ['C', 'Compare this tier with the next one you press it on'],
  ['G', 'Group things that share one list of gates'],
  ['H', 'The head of the column: name, colour, place'],
  ['Space', 'Fold or unfold'],
  ['Ctrl Z', 'Takes back what was done last, in whatever place; with Shift does it again'],
  [
    'In a sentence',
    '← → walk the tokens, Enter opens one, Backspace takes it out, N turns it round, B brackets it with the next, Ctrl Z undoes',
  ],
  ['?', 'This list'],
]
</script>

<template>
  <Dialog v-model:open="open" title="Keys" wide>
    <dl class="grid grid-cols-[150px_1fr] gap-x-4 gap-y-2">
      <template v-for="[key, what] in keys" :key="key">
        <dt class="font-semibold">
          {{ key }}
        </dt>
        <dd class="text-soft">
          {{ what }}
        </dd>
      </template>
    </dl>
    <div class="mt-4 text-right">
      <Act @click="open = false">Close</Act>
    </div>
  </Dialog>
</template>
