<script setup lang="ts">
import ChoosePassword from '~/site/ChoosePassword.vue'
</script>

<template>
  <ChoosePassword
    title="enter.another-password"
    label="enter.new-password"
    act="enter.take-password"
    fresh
    :broken="{ word: 'enter.reset-broken', href: '/forgot', link: 'enter.ask-another' }" />
</template>
