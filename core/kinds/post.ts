/** A post, filed under any number of topics. */
import { z } from 'zod'
import { key, language } from '../shapes'
import { holderOf, kindOf, namesEach, titled, written } from './kind'

const topicShape = z.strictObject(titled)
export const topic = holderOf<z.infer<typeof topicShape>>()({
  list: 'topics',
  shape: topicShape,
  gated: true,
  holds: ['post'],
})

const shape = z.strictObject({
  ...titled,
  ...written,
  path: key,
  language: language.optional(),
  topics: z.array(key).optional(),
  /** A local date, `YYYY-MM-DD`: lists show the newest first. */ date: z.iso.date().optional(),
})
export type Post = z.infer<typeof shape>

export const post = kindOf<Post>()({
  parts: {
    passages: 'body',
    broken: 'body',
    title: 'title',
    path: 'address',
    summary: 'summary',
    words: 'body',
    topics: 'topics',
    date: 'body',
    author: 'body',
    picture: 'body',
  },
  list: 'posts',
  shape,
  rights: ['find', 'search', 'open'],
  path: thing => thing.path,
  day: thing => thing.date,
  names: thing => namesEach('topic', 'topics', thing.topics),
  ways: thing => (thing.topics ?? []).map(id => [{ on: 'topic', id }]),
})
