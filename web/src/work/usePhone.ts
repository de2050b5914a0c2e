import { useMediaQuery } from '@vueuse/core'

/** Whether the page is as narrow as on a phone; the style sheets ask for the same. */
export const usePhone = () => useMediaQuery('(max-width: 700px)')
