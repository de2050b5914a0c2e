// The materials of the survey drawing as a Vuetify theme: paper, ink, one red,
// one water colour. No screen has colours of its own.
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

const light = {
  dark: false,
  colors: {
    background: '#F3EFE6',
    surface: '#FBF9F4',
    'on-background': '#18262B',
    'on-surface': '#18262B',
    primary: '#18262B',
    'on-primary': '#FBF9F4',
    error: '#C23B22',
    success: '#5E7F3A',
    ink: '#18262B',
    soft: '#57656A',
    rule: '#D6CFC0',
    hair: '#E7E1D5',
    red: '#C23B22',
    water: '#2D6E7E',
    pale: '#7FB2B8',
    brass: '#A9802F',
    moss: '#5E7F3A',
    strip: '#E8E2D4',
    frame: '#E3DCCB',
    box: '#324249',
    boxdim: '#3F4D52',
    boxdark: '#1E2A2F',
    boxink: '#F4F0E6',
    boxline: '#55656B',
    boxedge: '#1E2A2F',
  },
}

const dark = {
  dark: true,
  colors: {
    background: '#11191C',
    surface: '#182226',
    'on-background': '#EAE5D9',
    'on-surface': '#EAE5D9',
    primary: '#EAE5D9',
    'on-primary': '#11191C',
    error: '#E2614A',
    success: '#94B56A',
    ink: '#EAE5D9',
    soft: '#9FABAD',
    rule: '#2C3A3F',
    hair: '#223035',
    red: '#E2614A',
    water: '#7FB2B8',
    pale: '#2D6E7E',
    brass: '#D9B25C',
    moss: '#94B56A',
    strip: '#222F34',
    frame: '#2A383E',
    box: '#3D5058',
    boxdim: '#4A5D65',
    boxdark: '#202D33',
    boxink: '#F4F0E6',
    boxline: '#7C9099',
    boxedge: '#7C9099',
  },
}

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
