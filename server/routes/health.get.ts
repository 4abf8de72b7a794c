import { defineEventHandler, setResponseHeader } from 'h3'

/** The process lives. Says nothing about anything else: whoever restarts it must not do so because the database is away. */
export default defineEventHandler(event => {
  setResponseHeader(event, 'cache-control', 'no-store')
  return { alive: true, ...(process.env.BRAVIK_INSTANCE ? { instance: process.env.BRAVIK_INSTANCE } : {}) }
})
