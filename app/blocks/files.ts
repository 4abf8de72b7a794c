import type { AppBlock } from './app-block'

export const files: AppBlock = {
  name: 'files',
  says: 'The files of a folder, to be fetched here, as far as the visitor may find them.',
  first: { folder: '' },
  fields: [
    { key: 'folder', label: 'Of the folder', type: 'one', of: 'folder' },
    { key: 'below', label: 'And of folders in it', type: 'check' },
    { key: 'most', label: 'At most', type: 'number', hint: '200' },
  ],
}
