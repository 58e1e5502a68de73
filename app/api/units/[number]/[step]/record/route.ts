import { isStepId } from '@fresh-coat/core/unit/way'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { bundleByNumber } from '@/server/units/bundle'
import { rawRecord } from '@/server/units/records'

/** A step's record exactly as it is stored, whether or not this version can read it. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string; step: string }> }) {
  const { number, step } = await params
  try {
    const found = await bundleByNumber(database(), Number(number))
    const raw = found && isStepId(step) ? rawRecord(found.bundle, step) : null
    if (!raw) return refuse(404, 'no-record', 'There is no such record.', 'Go back to the unit.')
    return new Response(JSON.stringify({ step, shape: raw.row.shape, data: raw.data }, null, 2), {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename="unit${number}_${step}.json"`,
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    return answerFault('record', cause)
  }
}
