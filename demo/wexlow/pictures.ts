/** Pictures of the mill's pages: files beside this folder, by the names they are kept under. */
export const wayFromTheQuay = 'ec17310d8ebdc21d2496def6c5e529920cdb8e362412134ce3bdf91019aeacfa-1200x675.png'

/** Files in `demo/files`, with the names that follow from their bytes. */
export const wexlowPictures = { 'way-from-the-quay.png': wayFromTheQuay }
