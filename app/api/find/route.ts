import { sizeWords } from '@fresh-coat/core/bytes/text'
import { templateOf } from '@fresh-coat/core/journey/facts'
import { isIdle } from '@fresh-coat/core/pins/template'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

interface Hit {
  href: string
  title: string
  about: string
}

/** Units by number, name, place or address; boards; pads and pins; files by name or hash; kit. At most twenty. */
export async function GET(request: Request) {
  const q = (new URL(request.url).searchParams.get('q') ?? '').trim().toLowerCase().slice(0, 100)
  try {
    const shop = await loadShop(database())
    const holds = (...texts: (string | null | undefined)[]) => texts.some((t) => t?.toLowerCase().includes(q))
    const hits: (Hit & { rank: number })[] = []
    for (const u of shop.units) {
      const exact = /^\d+$/.test(q) && Number(q) === u.number
      const about = [u.board?.name, u.place, u.records.join.data.address].filter(Boolean).join(' · ')
      if (q === '' || exact || holds(u.name, u.place, u.records.join.data.address, u.records.join.data.mac, u.topic))
        hits.push({
          rank: exact ? 0 : 2,
          href: `/units/${u.number}`,
          title: `${String(u.number).padStart(2, '0')} ${u.name}`,
          about,
        })
      if (q.length >= 2)
        for (const p of templateOf(u)?.pins ?? [])
          if (!isIdle(p.fn) && holds(p.pin))
            hits.push({
              rank: 5,
              href: `/units/${u.number}/pins`,
              title: `${p.pin} ${p.fn}`,
              about: `on ${String(u.number).padStart(2, '0')} ${u.name}`,
            })
      if (q.length >= 3)
        for (const f of u.files)
          if (f.kind === 'dump' && (holds(f.name) || f.sha256.startsWith(q)))
            hits.push({ rank: 6, href: `/images/${f.id}`, title: f.name, about: `read ${f.read} of unit ${u.number}` })
    }
    if (q !== '') {
      for (const b of shop.boards) {
        if (holds(b.name, b.family)) hits.push({ rank: 3, href: `/boards/${b.id}`, title: b.name, about: 'board' })
        else if (q.length >= 2 && b.pads?.pads.some((r) => r.toLowerCase() === q))
          hits.push({
            rank: 4,
            href: `/boards/${b.id}`,
            title: `Pad ${q.toUpperCase()}`,
            about: `of ${b.name}: ${b.pads.pads.join(' ')}`,
          })
      }
      for (const f of shop.images)
        if (holds(f.name) || (q.length >= 3 && f.sha256.startsWith(q)))
          hits.push({ rank: 3, href: `/images/${f.id}`, title: f.name, about: sizeWords(f.bytes) })
      for (const a of shop.adapters)
        if (holds(a.name)) hits.push({ rank: 4, href: '/kit', title: a.name, about: 'adapter' })
    }
    hits.sort((a, b) => a.rank - b.rank)
    return Response.json({ hits: hits.slice(0, 20).map(({ rank: _, ...hit }) => hit) })
  } catch {
    return Response.json({ error: 'The database does not answer.' }, { status: 503 })
  }
}
