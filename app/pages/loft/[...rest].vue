<script setup lang="ts">
/** Any other address of the console. */
useHead({ title: 'No such place · Bravik' })
</script>

<template>
  <div class="grid justify-items-start gap-3 px-4 pt-10">
    <h1 class="text-[22px]">There is no such place</h1>
    <p>The address is mistyped, or what was here has moved. Whatever there is stands in the bar above.</p>
    <NuxtLink class="btn" to="/loft">To the rules</NuxtLink>
  </div>
</template>
