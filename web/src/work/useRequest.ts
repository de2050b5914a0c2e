// Which request is followed: from a reader's place to a name or a service. It stays while
// one looks at other sheets.
import { reactive } from 'vue'

const asked = reactive({ from: '', to: '' })

export const useRequest = () => asked
