// Does what puts a finding right, and says what that was.
import type { Finding } from '../api/client'
import { attempt, say, useLab } from '../lab/useLab'

export function useFix() {
  const { send } = useLab()
  const fix = (f: Finding) =>
    attempt(async () => {
      await send('/api/v1/findings/fix', { key: f.key })
      say(`${f.fix?.say ?? 'Done.'} Done; Ctrl+Z takes it back.`)
    })
  return { fix }
}
