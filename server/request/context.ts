/**
 * What one request carries from the door to its answer, by name. What is of a type of its own is declared beside that:
 * the caller, the page, the visitor's own words.
 */
declare module 'h3' {
  interface H3EventContext {
    /** Named in logs and in problems. */
    requestId?: string
    /** It was asked for by HEAD: nothing is counted, and no body is sent. */
    headOnly?: boolean
    /** The action of the console that was called. */
    action?: string
    /** Which page of the application's own answers, for what is counted; `page` where a page of the site does. */
    ownPath?: string
    /** Under which a rendered page may be kept, and under which it was rendered. */
    viewKey?: string
    renderedView?: string
    siteAddress?: string
  }
}

export {}
