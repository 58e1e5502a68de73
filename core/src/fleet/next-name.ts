/** Names that count up: "Heater A" → "Heater B", "Plug 9" → "Plug 10", "Lamp" → "Lamp 2"; skips names that are taken. */
export function nextName(name: string, taken: readonly string[]): string {
  const used = new Set(taken.map((t) => t.trim().toLowerCase()))
  const counted = /^(.*?)(\d+)$/u.exec(name)
  const lettered = /^(.*\s)([A-Y])$/u.exec(name)
  const stem = counted ? (counted[1] as string) : lettered ? (lettered[1] as string) : `${name} `
  const numbers = () => {
    for (let n = counted ? Number(counted[2]) + 1 : 2; ; n++) if (!used.has(`${stem}${n}`.toLowerCase())) return n
  }
  if (lettered)
    for (let code = (lettered[2] as string).charCodeAt(0) + 1; code <= 90; code++) {
      const next = `${stem}${String.fromCharCode(code)}`
      if (!used.has(next.toLowerCase())) return next
    }
  return `${stem}${numbers()}`
}
