import type { CampaignUnit } from '../fleet/campaign'

/** A unit of an update, for tests: it runs 1.4.0 and nobody listens to it. */
export const campaignUnit = (number: number, more: Partial<CampaignUnit> = {}): CampaignUnit => ({
  id: `u${number}`,
  number,
  installed: '1.4.0',
  heard: null,
  presence: null,
  bridge: false,
  ...more,
})
