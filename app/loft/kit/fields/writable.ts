/** Whether what stands in the fields of a screen may be changed: said once for all of them. */
import { inject, provide } from 'vue'
import type { InjectionKey } from 'vue'

const key: InjectionKey<() => boolean> = Symbol('whether fields may be written')

export const provideWritable = (may: () => boolean) => provide(key, may)

/** Without a word of it fields may be written. */
export const useWritable = () => inject(key, () => true)
