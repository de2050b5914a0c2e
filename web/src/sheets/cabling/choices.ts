// What a cable can be, to choose from. The compiler sees to it that no kind and
// no way is missing.
import type { Schemas } from '../../api/client'

const kindNames: Record<Schemas['CableKind'], string> = {
  cat5e: 'Cat 5e',
  cat6: 'Cat 6',
  cat6a: 'Cat 6A',
  om3: 'OM3 fibre',
  om4: 'OM4 fibre',
  'single-mode': 'single-mode fibre',
  dac: 'DAC',
  rg6: 'RG6 coax',
  usb: 'USB',
  hdmi: 'HDMI',
  displayport: 'DisplayPort',
  vga: 'VGA',
  dvi: 'DVI',
  audio: 'audio',
  speaker: 'speaker',
  serial: 'serial',
  sas: 'SAS',
  sata: 'SATA',
  kvm: 'KVM',
  c13: 'power, C13',
  c15: 'power, C15',
  c19: 'power, C19',
  c5: 'power, C5',
  c7: 'power, C7',
  uk: 'power, UK',
  'type-f': 'power, type F',
  nema: 'power, NEMA',
  dc: 'power, DC',
  wireless: 'wireless',
  powerline: 'over the mains',
}
const wayNames: Record<Schemas['Way'], string> = {
  over: 'straight over the faces',
  left: 'through the left side',
  right: 'through the right side',
  back: 'round the back',
  brush: 'through a brush panel',
}

const entries = <K extends string>(names: Record<K, string>) => Object.entries(names) as [K, string][]

export const kindName = (kind?: Schemas['CableKind']): string => (kind ? kindNames[kind] : '')
export const ways = entries(wayNames).map(([is, title]) => ({ is, title }))
