/** The few names Nuxt gives screens besides Vue's, the composables' and the stores', for screens tested on their own. */
import { reactive } from 'vue'

/** Where the screen stands; a test sets it. */
export const route = reactive<{ path: string; query: Record<string, string>; params: Record<string, string> }>({
  path: '/loft',
  query: {},
  params: {},
})
export const useRoute = () => route

/** Where the screen led, in order. */
export const led: string[] = []
export async function navigateTo(to: string | { path: string }): Promise<void> {
  led.push(typeof to === 'string' ? to : to.path)
}
/** A screen that only notes in the address what it shows has led nowhere. */
export const onBeforeRouteLeave = () => {}
export const useRouter = () => ({
  push: navigateTo,
  replace: async () => {},
  beforeEach: () => () => {},
  currentRoute: { value: route },
})
export const useHead = () => {}
export const definePageMeta = () => {}

/** The request a page of the site is rendered for; a test sets what is shown. */
export const requestEvent: { context: { view?: unknown } } = { context: {} }
export const useRequestEvent = () => requestEvent
