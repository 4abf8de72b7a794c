<script setup lang="ts">
import ChoosePassword from '~/site/ChoosePassword.vue'
</script>

<template>
  <ChoosePassword
    title="enter.confirm"
    label="enter.chosen-password"
    act="enter.confirm-do"
    :broken="{ word: 'enter.confirm-broken', href: '/sign-up', link: 'enter.sign-up-again' }" />
</template>
