import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const hubRecord = z.object({
  hubId: z.string().nullable().default(null),
  noButton: z.boolean().default(false),
  note: text(1000),
  /** A radio that it offers to the hub over the network. */
  bridge: z
    .object({
      port: z.number().int().min(1).max(65535).nullable().default(null),
      baud: z.number().int().positive().max(10_000_000).nullable().default(null),
      flow: z.enum(['none', 'hardware', 'software']).default('none'),
      radio: text(120),
      radioFirmware: text(120),
      joined: z
        .array(
          z.object({
            address: z.string().max(40),
            name: z.string().max(120),
            room: z.string().max(120),
            heard: z.string().max(40),
            /** Signal in dB of what it sends, as the hub shows it. */
            signal: z.number().min(-200).max(0).nullable(),
          }),
        )
        .max(500)
        .default([]),
    })
    .nullable()
    .default(null),
  /** Stock firmware that the hub talks to on the own network. */
  local: z
    .object({
      deviceId: text(120),
      /** Which of its secrets is the local key. */
      keySecret: z.string().max(40).nullable().default(null),
      protocol: text(40),
      cloudBlocked: z.enum(['yes', 'no']).nullable().default(null),
      blockedOn: z.iso.date().nullable().default(null),
    })
    .nullable()
    .default(null),
})

export const record = recordKind(hubRecord)
