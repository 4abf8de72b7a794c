<script setup lang="ts">
const { problems } = useOwn()
useHead({ title: 'Leave for good', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Leave for good</h1>
    <p>
      Your name, address, levels and everything else about you is removed at once and cannot be brought back.
      <a href="/account/data">Take your data</a> first, if you want it.
    </p>
    <SiteForm :problem="problems['']">
      <SiteField
        name="oldPassword"
        label="Your password"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.oldPassword" />
      <span class="buttons"><button class="button">Remove me</button> <a href="/account">Stay</a></span>
    </SiteForm>
  </article>
</template>
