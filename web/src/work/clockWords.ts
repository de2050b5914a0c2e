/** Seconds as minutes and seconds: 8:53. */
export function clockWords(s: number): string {
  const whole = Math.round(s)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
