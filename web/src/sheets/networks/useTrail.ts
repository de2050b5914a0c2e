// From a link to the trail of its cable, on the Cabling sheet.
import { useRouter } from 'vue-router'
import { useLab } from '../../lab/useLab'
import { useCabling } from '../../work/useCabling'

export function useTrail() {
  const { lab } = useLab()
  const { pickCable } = useCabling()
  const router = useRouter()

  /** Shows a cable where its trail is drawn; nothing where there is none, as in the air. */
  function showTrail(cable: string | undefined) {
    const c = lab.value?.cables.get(cable ?? '')
    if (!c) return
    pickCable(c)
    void router.push('/cabling')
  }
  return { showTrail }
}
