import type { TableFormat } from '@fresh-coat/core/network/tables'

export const reasonWords: Record<string, string> = {
  same: 'same MAC',
  'local-bit': 'MAC differs in the local bit',
  'minus-one': 'MAC is one below',
  'plus-one': 'MAC is one above',
  other: 'another MAC',
  'name-exact': 'the name is its name',
  'name-suffix': 'the name ends with its suffix',
  'name-differs': 'another name',
  'mac-tail': 'the MAC ends with its suffix',
  'mac-tail-near': 'the MAC ends one beside its suffix',
  'mac-tail-other': 'another MAC tail',
  new: 'new on the list',
  'was-there': 'was there before',
}
export const skipWords: Record<string, string> = {
  incomplete: 'no MAC yet',
  'not-active': 'lease not active',
  multicast: 'no device',
  ipv6: 'IPv6',
  unresolved: 'not resolved',
  header: 'title',
  'no-mac': 'no MAC',
  unparsed: 'not understood',
}
export const confirmWords = { match: 'a sure match', blink: 'it blinked', 'by hand': 'by hand' }

/** What a pasted text was read as. */
export const formatWords: Record<TableFormat, string> = {
  'isc-leases': 'a list of leases in blocks',
  'ip-neigh': 'a neighbour table',
  'arp-unix': 'an address table',
  'dnsmasq-lease': 'a list of leases',
  services: 'a list of services',
  ssdp: 'announcements',
  'arp-windows': 'an address table in columns',
  cards: 'cards of devices',
  csv: 'comma-separated rows',
  table: 'a table',
}
