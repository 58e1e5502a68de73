import { md5 } from '@noble/hashes/legacy.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { hexOf } from './text'

/** SHA-256 in lower-case hex. For a whole dump the platform's own is faster; results are the same. */
export const sha256Hex = (bytes: Uint8Array): string => hexOf(sha256(bytes))
export const md5Hex = (bytes: Uint8Array): string => hexOf(md5(bytes))
