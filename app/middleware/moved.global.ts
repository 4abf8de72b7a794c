import { movedTo } from '~/loft/frame/moved'

export default defineNuxtRouteMiddleware(({ path, query }) => {
  const moved = movedTo(path, query)
  if (moved) return navigateTo(moved, { replace: true })
})
