/** The rules of every step in one piece of their own: fetched after a page is there, since the server has judged what it shows. */
export { judge } from '@fresh-coat/core/unit/judge'
export { instructionsOf, tickOff } from '@fresh-coat/core/unit/steps'
