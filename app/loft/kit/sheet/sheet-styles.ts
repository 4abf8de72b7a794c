// As texts with what they import in them, since they go into a tree of their own. Loaded when they are needed: what a screen imports outright Nuxt takes for its styles.
import site from '~/site/site.css?inline'
import sheet from './sheet.css?raw'

/** The looks of the site, and what stands on it while it is written. Sheets made here are no styles written into a page, which the console's policy refuses. */
export const sheetStyles = (): CSSStyleSheet[] =>
  [site, sheet].map(text => {
    const made = new CSSStyleSheet()
    made.replaceSync(text)
    return made
  })
