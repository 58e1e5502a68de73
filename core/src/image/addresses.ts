/** True for an LX106 load address: data RAM, instruction RAM, or mapped flash. It tells a plain header from an extended one. */
export const isLoadAddress = (a: number): boolean =>
  (a >= 0x3ffe8000 && a <= 0x3fffffff) || (a >= 0x40100000 && a <= 0x4010ffff) || (a >= 0x40200000 && a <= 0x402fffff)
