/** Files that people drop by mistake, told by their first bytes (each by its open format’s own signature). */

const signatures: { what: string; at?: number; bytes: readonly number[] }[] = [
  { what: 'a PNG picture', bytes: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a] },
  { what: 'a JPEG picture', bytes: [0xff, 0xd8, 0xff, 0xe0] },
  { what: 'a JPEG picture', bytes: [0xff, 0xd8, 0xff, 0xe1] },
  { what: 'a JPEG picture', bytes: [0xff, 0xd8, 0xff, 0xdb] },
  { what: 'a GIF picture', bytes: [0x47, 0x49, 0x46, 0x38] },
  { what: 'a WebP picture', at: 8, bytes: [0x57, 0x45, 0x42, 0x50] },
  { what: 'a HEIC picture', at: 4, bytes: [0x66, 0x74, 0x79, 0x70, 0x68, 0x65, 0x69] },
  { what: 'a video', at: 4, bytes: [0x66, 0x74, 0x79, 0x70] },
  { what: 'a PDF document', bytes: [0x25, 0x50, 0x44, 0x46, 0x2d] },
  { what: 'a ZIP archive', bytes: [0x50, 0x4b, 0x03, 0x04] },
  { what: 'a web page', bytes: [0x3c, 0x21, 0x44, 0x4f, 0x43, 0x54, 0x59, 0x50, 0x45] },
  { what: 'a web page', bytes: [0x3c, 0x21, 0x64, 0x6f, 0x63, 0x74, 0x79, 0x70, 0x65] },
  { what: 'a web page', bytes: [0x3c, 0x68, 0x74, 0x6d, 0x6c] },
]

/** What a file is that can be no firmware and no read of a chip; null when nothing says so. */
export function plainlySomethingElse(bytes: Uint8Array): string | null {
  const found = signatures.find(({ at = 0, bytes: sign }) => sign.every((b, i) => bytes[at + i] === b))
  return found?.what ?? null
}
