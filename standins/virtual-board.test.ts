import type { PadReading } from '@fresh-coat/core/pads/readings'
import { solvePads } from '@fresh-coat/core/pads/solve'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { makeVirtualBoard, parMinutes, probe, scoreHunt } from '@/standins/virtual-board'

describe('a virtual board', () => {
  test('the same seed is the same board', () => expect(makeVirtualBoard(7)).toEqual(makeVirtualBoard(7)))
  test('with every reading taken, ground and rail are right on every board, and TX and RX on nearly every one', () => {
    let talk = 0
    for (let seed = 1; seed <= 60; seed++) {
      const board = makeVirtualBoard(seed)
      const outcome = solvePads({ pads: board.answers })
      if (!outcome.ok) throw new Error('refused')
      const right = (role: PadRole) => outcome.value.best.roles[board.roles.indexOf(role)] === role
      expect({ seed, gnd: right('GND'), rail: right('3V3') }).toEqual({ seed, gnd: true, rail: true })
      if (right('TX') && right('RX')) talk++
    }
    // BOOT and RST are told apart by a button or print only: boards have neither at times.
    expect(talk).toBeGreaterThanOrEqual(57)
  })
  test('the meter answers what it was asked, and a load shows the idle voltage too', () => {
    const board = makeVirtualBoard(3)
    const tx = board.roles.indexOf('TX')
    expect(probe(board, tx, 'text')).toEqual({ text: true })
    expect(Object.keys(probe(board, tx, 'volts_10k'))).toEqual(['volts', 'volts_10k'])
    expect(probe(board, 99, 'text')).toEqual({})
  })
  test('right and quick is 100; every wrong pad costs 20, every minute too many 2', () => {
    const board = makeVirtualBoard(5)
    const par = parMinutes(board)
    expect(par).toBeGreaterThan(0)
    expect(scoreHunt(board, board.roles, par).score).toBe(100)
    expect(scoreHunt(board, board.roles, par + 10).score).toBe(80)
    const swapped = board.roles.map((r) => (r === 'TX' ? 'RX' : r === 'RX' ? 'TX' : r))
    expect(scoreHunt(board, swapped, par)).toMatchObject({ score: 60, wrong: { length: 2 } })
  })
  test('the advice never asks for power before ground and rail are sure', () => {
    for (let seed = 1; seed <= 15; seed++) {
      const board = makeVirtualBoard(seed)
      let pads: PadReading[] = board.roles.map(() => ({}))
      for (let i = 0; i < 40; i++) {
        const outcome = solvePads({ pads })
        if (!outcome.ok) throw new Error('refused')
        const next = outcome.value.next[0]
        if (!next || next.bits < 0.005) break
        if (next.powered) expect(outcome.value.safeToWire).toBe(true)
        const taken = probe(board, next.pad, next.measure === 'sag_10k' ? 'volts_10k' : next.measure)
        pads = pads.map((p, at) => (at === next.pad ? { ...p, ...taken } : p))
      }
    }
  })
})
