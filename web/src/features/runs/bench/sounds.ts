/** Notes that tell the hands what the eyes need not look at: in the tub, under, over, refused. */
const notes = {
  taken: [[660, 0.09]],
  within: [[880, 0.1]],
  under: [
    [440, 0.09],
    [330, 0.14],
  ],
  over: [
    [660, 0.08],
    [990, 0.14],
  ],
  refused: [[180, 0.25]],
} as const satisfies Record<string, readonly (readonly [number, number])[]>
export type Sound = keyof typeof notes

let context: AudioContext | undefined

/** Plays a sound; silence where the browser will not. */
export function play(sound: Sound): void {
  try {
    context ??= new AudioContext()
    let at = context.currentTime
    for (const [hertz, seconds] of notes[sound]) {
      const tone = context.createOscillator()
      const volume = context.createGain()
      tone.frequency.value = hertz
      volume.gain.setValueAtTime(0.2, at)
      volume.gain.exponentialRampToValueAtTime(0.001, at + seconds)
      tone.connect(volume).connect(context.destination)
      tone.start(at)
      tone.stop(at + seconds)
      at += seconds
    }
  } catch {
    context = undefined
  }
}
