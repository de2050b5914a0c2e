// The materials of the survey drawing as a Vuetify theme: paper, ink, one red,
// one water colour. No screen has colours of its own.
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { dark, light } from './palette'

/** The system's choice unless the person made one. */
export const themeKey = 'levelstaff.theme'

export function makeVuetify() {
  const chosen = localStorage.getItem(themeKey)
  return createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: {
      defaultTheme: chosen === 'light' || chosen === 'dark' ? chosen : 'system',
      cspNonce: document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? '',
      variations: false,
      themes: { light, dark },
    },
    defaults: {
      VBtn: { variant: 'outlined', rounded: 'sm', ripple: false },
      VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm' },
      VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm' },
      VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm' },
      VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm' },
      VList: { density: 'compact' },
      VMenu: { transition: false },
      VDialog: { transition: false },
    },
  })
}
