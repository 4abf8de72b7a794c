<script setup lang="ts">
import type { GoodsPlan } from '~~/server/services/shop/goods-csv'

/** Goods from a file: looked at first, with what is wrong in which line; then all of it as one change of the draft, or nothing. */
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ changed: [] }>()
const { problem, done, busy, run } = useDeed()
const file = shallowRef<File | null>(null)
const plan = ref<GoodsPlan | null>(null)

async function send(dry: boolean): Promise<GoodsPlan> {
  const answer = await fetch(`/api/loft/products/import${dry ? '?dry=1' : ''}`, {
    method: 'POST',
    body: file.value!,
    headers: { ...askedAsRole(), 'content-type': 'text/csv' },
  })
  const told = (await answer.json()) as GoodsPlan & { detail?: string }
  if (!answer.ok && !told.problems) throw new Error(told.detail ?? 'That did not work.')
  return {
    ...told,
    added: told.added ?? 0,
    changed: told.changed ?? 0,
    same: told.same ?? 0,
    counted: told.counted ?? 0,
  }
}
async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  plan.value = null
  if (file.value) plan.value = (await run(() => send(true))) ?? null
}
async function take() {
  const taken = await run(() => send(false))
  if (!taken) return
  plan.value = taken
  if (taken.problems.length) return
  done.value = `${counted(taken.added + taken.changed, 'product')} in the draft. Nothing of them is on the site before it is published${taken.counted ? '; stock and cost hold at once' : ''}.`
  emit('changed')
}
</script>

<template>
  <LoftDialog v-model:open="open" title="Goods from a file" wide>
    <div class="grid gap-3">
      <p class="text-soft">
        A CSV file in UTF-8, such as the one that is written here. The first line names the columns: <code>id</code> and
        any of
        <code
          >of, title, categories, options, address, price, currency, sale, sale from, sale until, tax category, taxed,
          delivery taxed, weight (grams), sent, gives level, gives roles, summary, stock, cost</code
        >. Columns left out leave what they say as it is; an empty cell takes it away.
      </p>
      <LoftField label="The file"><input type="file" accept=".csv,text/csv" @change="look" /></LoftField>
      <LoftTold :problem="problem" :done="done" />
      <p v-if="busy" role="status" class="text-soft">Reading…</p>
      <template v-if="plan && !done">
        <p v-if="!plan.problems.length">
          <b>{{ plan.added }} new, {{ plan.changed }} changed</b>, {{ plan.same }} as they are<template
            v-if="plan.counted"
            >; stock or cost of {{ plan.counted }} counted anew, at once</template
          >.
        </p>
        <div v-else role="alert">
          <p class="wrong">{{ counted(plan.problems.length, 'thing') }} not right; nothing would be taken over.</p>
          <ul class="max-h-[240px] overflow-y-auto" tabindex="0" aria-label="What is not right">
            <li v-for="(one, i) in plan.problems" :key="i">
              <b>Line {{ one.line }}{{ one.column ? `, ${one.column}` : '' }}</b
              >: {{ one.message }}
            </li>
          </ul>
        </div>
      </template>
      <div class="flex justify-end gap-2">
        <button class="btn" @click="open = false">Close</button
        ><button class="btn" :disabled="busy || !plan || plan.problems.length > 0 || done !== ''" @click="take">
          Take over
        </button>
      </div>
    </div>
  </LoftDialog>
</template>
