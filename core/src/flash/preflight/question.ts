import type { Family } from '../../families/families'
import type { FamilyVerdict } from '../../identify/identify'
import type { FileFinding } from '../../image/image'
import type { PartitionTable } from '../../image/partitions'

export interface PreflightUnit {
  family: Family
  /** Verdict of identification; null when none was made. */
  familyVerdict: FamilyVerdict | null
  flashBytes: number | null
  flashId: string | null
  dataLines: 2 | 4 | null
  inPackageFlash: boolean
  provenModes: readonly string[]
  backup: { state: 'verified' | 'single' | 'skipped' | 'none'; bytes: number | null; reason: string | null }
  /** The layout on the chip, when it is known, and what is wrong with it. */
  layout: PartitionTable | null
  layoutFindings?: readonly FileFinding[]
}

export interface WriteWish {
  fileName: string
  /** Where it is to be written; null for where it belongs. */
  offset: number | null
  eraseAll: boolean
  baud: number
  verify: 'digest' | 'readback' | 'none'
  /** What the person chose, null for no choice. */
  variant: string | null
  language: string | null
  /** Start offset that the firmware profile gives for a family without a boot header. */
  profileOffset: number | null
}

export interface WritePlan {
  erase: 'chip' | 'regions'
  regions: {
    offset: number
    length: number
    eraseOffset: number
    eraseBytes: number
    /** Name of the file it comes from. */
    source: string
    sha256: string
  }[]
  payloadBytes: number
  /** Null when the whole chip is to be erased and nobody knows how large it is; then its seconds are unknown too. */
  eraseSectors: number | null
  seconds: { erase: number | null; write: number; verify: number; total: number | null }
}

export interface Preflight {
  verdict: 'go' | 'warn' | 'stop'
  kind: string
  expectedOffset: number | null
  findings: FileFinding[]
  plan: WritePlan | null
}
