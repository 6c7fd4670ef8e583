/** What the hand feels where a phone can do it: short for what was tapped, long for what has come due. */
const PATTERNS = { tapped: [80], due: [300, 150, 300] } as const;

export function buzz(pattern: keyof typeof PATTERNS): void {
  // Somebody who wants nothing to move wants nothing to shake.
  if (window.matchMedia("(prefers-reduced-motion: reduce)").matches) return;
  navigator.vibrate?.([...PATTERNS[pattern]]);
}

let sound = true;

/** Whether somebody wants to hear anything: set from their preferences. */
export function soundIs(on: boolean): void {
  sound = on;
}

/** Two short notes, made here: no sound file to load. */
export function ring(): void {
  if (!sound) return;
  try {
    const audio = new AudioContext();
    for (const [i, pitch] of [660, 880].entries()) {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      tone.frequency.value = pitch;
      volume.gain.setValueAtTime(0.25, audio.currentTime + 0.25 * i);
      volume.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.25 * i + 0.22);
      tone.connect(volume).connect(audio.destination);
      tone.start(audio.currentTime + 0.25 * i);
      tone.stop(audio.currentTime + 0.25 * i + 0.24);
    }
    setTimeout(() => void audio.close(), 1000);
  } catch {
    // No sound here: the words stand.
  }
}
