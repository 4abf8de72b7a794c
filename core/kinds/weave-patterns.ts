/** Woven patterns the site draws itself, so that a picture needs no file. */
export const weavePatterns = ['gansey', 'herringbone', 'diamond', 'plain', 'twill'] as const
export const weavePalettes = ['madder', 'weld', 'woad', 'moss', 'fleece'] as const
