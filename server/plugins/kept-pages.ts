/** Keeps what was rendered for a view key. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { keepPage } from '../services/pages/kept-pages'

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:response', (response, { event }) => {
    const key = event.context.viewKey as string | undefined
    if (key && typeof response.body === 'string') keepPage(key, response.body)
  })
})
