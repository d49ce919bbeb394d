/** A short tone: high where it is right, low and twice as long where it is wrong; and a shake where the device can. Nothing where it has no sound. */
export function signal(ok: boolean): void {
  navigator.vibrate?.(ok ? 40 : [120, 60, 120]);
  if (!("AudioContext" in window)) return;
  sound ??= new AudioContext();
  const tone = sound.createOscillator();
  const volume = sound.createGain();
  tone.frequency.value = ok ? 1320 : 220;
  volume.gain.value = 0.15;
  tone.connect(volume).connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + (ok ? 0.08 : 0.3));
}

let sound: AudioContext | null = null;
