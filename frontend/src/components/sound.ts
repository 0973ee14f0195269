/** Three rising tones, made here: nothing is fetched, and they carry through a loud room. */
const TONES = [880, 1175, 1568];
const TONE_S = 0.22;
let context: AudioContext | null = null;

export function startSound(): void {
  context ??= new AudioContext();
  // Suspended until somebody touched the page.
  void context.resume();
  const begins = context.currentTime;
  TONES.forEach((pitch, at) => {
    if (!context) return;
    const tone = context.createOscillator();
    const loud = context.createGain();
    tone.type = "square";
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.25, begins + at * TONE_S);
    loud.gain.exponentialRampToValueAtTime(0.001, begins + (at + 1) * TONE_S);
    tone.connect(loud).connect(context.destination);
    tone.start(begins + at * TONE_S);
    tone.stop(begins + (at + 1) * TONE_S);
  });
}
