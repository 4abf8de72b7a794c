/** Pictures kept at the server: uploaded, and read by their names. */
import { mostOfPicture, writersPictureAddress } from '~~/core/pictures/picture-file'
import { loftApi } from '~/loft/core/loft-api'
import { askedAsRole } from '~/loft/core/seen-as-role'

const base64Of = (file: Blob) =>
  new Promise<string>((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '')
    reader.onerror = () => reject(new Error('The file cannot be read.'))
    reader.readAsDataURL(file)
  })

/** Uploads one and answers its name. Throws a sentence where it is none, or too large. */
export async function keepPicture(file: Blob): Promise<string> {
  if (file.size > mostOfPicture) throw new Error('A picture is at most 5 MB.')
  if (!file.size) throw new Error('The file is empty.')
  return (await loftApi('POST pictures', { body: { bytes: await base64Of(file) } })).name
}

export async function readStoredPicture(name: string): Promise<Uint8Array> {
  const answer = await fetch(writersPictureAddress(name), { headers: askedAsRole() })
  if (!answer.ok) throw new Error('A picture could not be read.')
  return new Uint8Array(await answer.arrayBuffer())
}
