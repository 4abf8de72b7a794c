import fc from 'fast-check'

// What random cases find of a changed operator they find soon; an operator nobody notices is tried by all of them.
fc.configureGlobal({ interruptAfterTimeLimit: 400 })
