import { hexNumber } from '../bytes/text'
import { type Finding, finding, hasError } from '../edge/finding'
import { type Family, keptBelow } from '../families/families'

/** Putting the stock firmware back: one region over the whole chip, and what speaks against it. */

export interface RestoreFacts {
  family: Family | null
  unsplit: boolean
  flashBytes: number | null
  backup: { state: 'verified' | 'single' | 'skipped' | 'differ' | 'none'; bytes: number | null; sha256: string | null }
  /** Number of the unit that the dump was read from, when it is another one of the same board. */
  fromUnit: number | null
  /** Family of that other unit, when it is known. */
  fromFamily?: Family | null
}
export interface RestorePlan {
  allowed: boolean
  /** Where writing begins: 0, or above the boot loader of an ARM968-A. */
  offset: number
  bytes: number
  sha256: string | null
  findings: Finding[]
}

export function planRestore(facts: RestoreFacts): RestorePlan {
  const { backup, flashBytes, family } = facts
  const findings: Finding[] = []
  if (backup.state === 'none' || backup.state === 'skipped' || backup.bytes === null)
    findings.push(finding('no-backup', 'error', 'There is no copy of the stock firmware to put back.', '', ''))
  if (backup.state === 'differ')
    findings.push(
      finding(
        'dumps-different',
        'error',
        'The two reads differ: nobody knows which one is right.',
        'Bytes of two reads are never mixed.',
        'Read it again, if it still runs its stock firmware.',
      ),
    )
  if (backup.state === 'single')
    findings.push(
      finding(
        'backup-single',
        'watch',
        'The copy was read only once.',
        'One read may hold a fault nobody sees.',
        'Keep a read of what is on the chip now before you write.',
      ),
    )
  if (backup.bytes !== null && flashBytes !== null && backup.bytes !== flashBytes)
    findings.push(
      finding(
        'backup-size',
        'error',
        `The copy has ${backup.bytes} bytes, the chip ${flashBytes}.`,
        '',
        'Only a copy of the whole chip can be put back.',
      ),
    )
  if (facts.fromUnit !== null && facts.fromFamily && family && facts.fromFamily !== family)
    findings.push(
      finding(
        'family-mismatch',
        'error',
        `Unit ${facts.fromUnit} is ${facts.fromFamily}, this one is ${family}.`,
        'Boards of one name can carry different chips.',
        'Only a copy from the same family can be put back.',
      ),
    )
  if (facts.fromUnit !== null)
    findings.push(
      finding(
        'clones-address',
        'watch',
        `Address and calibration of unit ${facts.fromUnit} would be cloned.`,
        'Two units with one address cannot live on one network.',
        'Use it for one of the two only.',
      ),
    )
  const offset = keptBelow(family, facts.unsplit)
  if (offset > 0)
    findings.push(
      finding(
        'keeps-boot-loader',
        'ok',
        `The part below ${hexNumber(offset)} stays as it is: the boot loader lives there.`,
        '',
        `Write the copy from ${hexNumber(offset)} on.`,
      ),
    )
  return {
    allowed: !hasError(findings),
    offset,
    bytes: Math.max(0, (backup.bytes ?? 0) - offset),
    sha256: backup.sha256,
    findings,
  }
}

/** One line as `sha256sum -c` reads it; null for names that it would read otherwise. */
export function manifestLine(name: string, sha256: string): string | null {
  return /[/\\\n\r]/.test(name) || name.startsWith('-') || name === '' ? null : `${sha256}  ${name}\n`
}

/** unit007_stock_20310106.bin */
export const backupName = (unit: number, day: string): string =>
  `unit${String(unit).padStart(3, '0')}_stock_${day.replaceAll('-', '')}.bin`
