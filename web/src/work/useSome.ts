// A long list from its beginning, and more of it as its end comes into view: what is not
// looked at yet need not be drawn.
import { useIntersectionObserver } from '@vueuse/core'
import { computed, ref, useTemplateRef, type Ref } from 'vue'

/** The part of a list that is drawn; the element behind it has end for its ref. */
export function useSome<T>(list: Ref<T[]>, step: number) {
  const many = ref(step)
  const end = useTemplateRef<HTMLElement>('end')
  const some = computed(() => list.value.slice(0, many.value))
  const more = computed(() => many.value < list.value.length)
  useIntersectionObserver(end, ([seen]) => seen?.isIntersecting && more.value && (many.value += step), { rootMargin: '600px' })
  return { some, more }
}
