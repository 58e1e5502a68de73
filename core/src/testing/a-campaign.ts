import {
  type CampaignUnit,
  type CampaignUnits,
  campaignUnitsOf,
  type LastWord,
  type LastWords,
} from '../fleet/campaign'

/** A unit of an update with what the air knows of it, for tests. */
export type HeardUnit = CampaignUnit & LastWord

/** It runs 1.4.0 and nobody listens to it. */
export const campaignUnit = (number: number, more: Partial<HeardUnit> = {}): HeardUnit => ({
  id: `u${number}`,
  number,
  installed: '1.4.0',
  heard: null,
  presence: null,
  bridge: false,
  ...more,
})

export const lastWordsOf = (units: readonly HeardUnit[]): LastWords => new Map(units.map((u) => [u.id, u]))

/** As the rings are asked for with them. */
export const asAsked = (units: readonly HeardUnit[]): [CampaignUnits, LastWords] => [
  campaignUnitsOf(units),
  lastWordsOf(units),
]
