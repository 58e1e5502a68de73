import { endedSentence, endings, endingWords } from '@fresh-coat/core/unit/ended'
import { gateIds } from '@fresh-coat/core/unit/way'
import { z } from 'zod'
import { command } from '../db/command'
import { localDay, two } from '../db/day'
import { Refused } from '../db/fault'
import { id } from '../db/fields'
import { clearGates } from './gates'
import { holdUnit } from './one'

/** The end of a unit's way, and its beginning again. Its record stays as it is, and its number on its case. */

const giveUp = command(
  z.strictObject({
    unitId: id,
    how: z.enum(endings),
    why: z.string().trim().max(500).default(''),
    /** Somebody took passwords and names off it: wanted before it goes to other hands. */
    wiped: z.boolean().default(false),
  }),
  async (c, { unitId, how, why, wiped }) => {
    const { unit } = await holdUnit(c, unitId)
    if (unit.ended)
      throw new Refused('ended', `Unit ${two(unit.number)} is given up already.`, 'Take it up again first.')
    if (how === 'died' && why === '')
      throw new Refused(
        'why',
        'Nobody said what it died of.',
        'One sentence is enough: the next one of its board may need it.',
      )
    if (how === 'given-away' && !wiped)
      throw new Refused(
        'wipe-first',
        'Passwords of the network and of the broker lie in its flash.',
        'Put it back to how it came, or erase it; then say that it is wiped.',
      )
    const ended = { how, on: localDay(c.now), why }
    await c.update('unit', unitId, null, { ended, inService: false, inHand: false })
    await clearGates(c, unitId, gateIds, 'reopened')
    await c.tell({
      kind: 'unit-ended',
      unitId,
      sentence: `${two(unit.number)} ${endingWords[how]}${why ? `: ${why}` : ''}`,
    })
    return { said: endedSentence(ended) }
  },
)

const takeUpAgain = command(z.strictObject({ unitId: id }), async (c, { unitId }) => {
  const { unit } = await holdUnit(c, unitId)
  if (!unit.ended) throw new Refused('not-ended', 'This unit is not given up.', 'Reload the page.')
  // It serves again when somebody has proved it again, not by being taken off a shelf.
  await c.update('unit', unitId, null, { ended: null })
  await c.tell({ kind: 'unit-taken-up', unitId, sentence: `${two(unit.number)} taken up again` })
  return {}
})

export const endingCommands = { 'give-up': giveUp, 'take-up-again': takeUpAgain }
