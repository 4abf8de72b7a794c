import { strangerPage } from '../../../site-answer/stranger-page'

export default strangerPage
