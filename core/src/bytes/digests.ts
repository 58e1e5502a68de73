import { md5 } from '@noble/hashes/legacy.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { hexOf } from './text'

/** A digest in lower-case hex. */
export type Digest = (bytes: Uint8Array) => string

/** SHA-256 in lower-case hex. The platform's own is several times as fast and gives the same: pass that where there is one. */
export const sha256Hex = (bytes: Uint8Array): string => hexOf(sha256(bytes))
export const md5Hex = (bytes: Uint8Array): string => hexOf(md5(bytes))
