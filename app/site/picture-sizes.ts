/** How wide a page shows a picture, for a browser to choose its size by: `site.css` sets the page's own width. */
export const pictureSizes = '(max-width: 850px) 100vw, 850px'
