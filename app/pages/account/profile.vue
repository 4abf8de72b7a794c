<script setup lang="ts">
import type { ProfileData } from '~~/server/own-pages/account'
import EmailField from '~/site/EmailField.vue'
import FactFields from '~/site/FactFields.vue'
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import PasswordField from '~/site/PasswordField.vue'
import Said from '~/site/Said.vue'

const { data, problems, values, say } = useOwn<ProfileData>()
const done: Record<string, string> = {
  profile: say('account.kept'),
  password: say('account.password-done'),
  address: say('account.address-sent'),
  'new-address': say('account.address-done'),
  prove: say('account.prove-sent'),
  feed: say('account.feed-made'),
  'feed-end': say('account.feed-ended'),
}
const of = (what: string, key: string, otherwise = '') => (values.what === what ? (values[key] ?? '') : otherwise)
</script>

<template>
  <OwnPage :title="say('account.profile')" of-account :done="done[data.done]" :problem="problems['']">
    <Form v-if="data.unproven && data.done !== 'prove'" :hidden="{ what: 'prove' }">
      <p>{{ say('account.unproven', { email: data.email }) }}</p>
      <button class="button plain">{{ say('account.prove') }}</button>
    </Form>
    <Form :hidden="{ what: 'profile' }">
      <Field
        name="name"
        :label="say('enter.name')"
        autocomplete="name"
        required
        :value="of('profile', 'name', data.name)"
        :problem="problems.name" />
      <FactFields
        :facts="data.facts"
        :value="(field, id) => of('profile', field, data.facts.find(one => one.id === id)?.value)"
        :problems="problems" />
      <button class="button">{{ say('account.keep') }}</button>
    </Form>
    <Form :hidden="{ what: 'address' }">
      <h2>{{ say('account.another-address') }}</h2>
      <p>
        <Said word="account.signed-in-as" :email="data.email" />
      </p>
      <EmailField :label="say('account.new-address')" :value="of('address', 'email')" :problem="problems.email" />
      <PasswordField
        id="address-password"
        name="oldPassword"
        :label="say('account.your-password')"
        :problem="problems.addressPassword" />
      <button class="button plain">{{ say('account.take-new-address') }}</button>
    </Form>
    <Form :hidden="{ what: 'password' }">
      <h2>{{ say('enter.another-password') }}</h2>
      <PasswordField name="oldPassword" :label="say('account.password-now')" :problem="problems.oldPassword" />
      <PasswordField :label="say('enter.new-password')" fresh :problem="problems.password" />
      <button class="button plain">{{ say('account.take-new-password') }}</button>
    </Form>
    <section class="form">
      <h2>{{ say('account.feed') }}</h2>
      <p>{{ say('account.feed-about') }}</p>
      <p v-if="data.feed">
        <code class="address">{{ data.feed }}</code>
      </p>
      <Form :hidden="{ what: 'feed' }">
        <button class="button plain">{{ say(data.feed ? 'account.feed-renew' : 'account.feed-make') }}</button>
      </Form>
      <Form v-if="data.feed" :hidden="{ what: 'feed-end' }">
        <button class="button plain">{{ say('account.feed-end') }}</button>
      </Form>
    </section>
  </OwnPage>
</template>
