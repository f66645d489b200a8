import { rms, toneLevel } from "@/core/bench/sound";
import { say } from "@/words/frame";

/** The browser's microphones through Web Audio, as levels of short windows. Needs a secure address. */

export type MicrophoneProblem = "insecure" | "refused" | "none";
export const WINDOW_MS = 50;

/** Why a microphone cannot be opened on this page at all, or null. */
export const microphoneBarred = (): MicrophoneProblem | null =>
  window.isSecureContext && navigator.mediaDevices ? null : "insecure";

export class Microphone {
  private constructor(
    private readonly stream: MediaStream,
    private readonly context: AudioContext,
    private readonly analyser: AnalyserNode,
    readonly label: string,
  ) {}

  static async open(deviceId: string | null): Promise<Microphone | MicrophoneProblem> {
    const barred = microphoneBarred();
    if (barred) return barred;
    // the browser's own clean-up would change the very levels that are measured
    const audio = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
    try {
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: deviceId ? { ...audio, deviceId: { exact: deviceId } } : audio,
      });
      const context = new AudioContext();
      await context.resume();
      const analyser = context.createAnalyser();
      analyser.fftSize = 2048;
      context.createMediaStreamSource(stream).connect(analyser);
      return new Microphone(
        stream,
        context,
        analyser,
        stream.getAudioTracks()[0]?.label || say("microphone"),
      );
    } catch (error) {
      return (error as DOMException).name === "NotFoundError" ? "none" : "refused";
    }
  }

  /** Levels for `ms`, one a window: of everything, or of one frequency. */
  listen(ms: number, hz: number | null, onLevel: (level: number) => void): Promise<number[]> {
    const samples = new Float32Array(this.analyser.fftSize);
    const levels: number[] = [];
    return new Promise((resolve) => {
      const timer = setInterval(() => {
        this.analyser.getFloatTimeDomainData(samples);
        const level = hz === null ? rms(samples) : toneLevel(samples, hz, this.context.sampleRate);
        levels.push(Math.min(2, level));
        onLevel(level);
        if (levels.length * WINDOW_MS < ms) return;
        clearInterval(timer);
        resolve(levels);
      }, WINDOW_MS);
    });
  }

  close(): void {
    this.stream.getTracks().forEach((t) => t.stop());
    void this.context.close();
  }
}

/**
 * Plays a steady tone to the output that the system has chosen, for as long as the returned call is not made.
 */
export function playTone(hz: number): () => void {
  const context = new AudioContext();
  const oscillator = context.createOscillator();
  const gain = context.createGain();
  gain.gain.value = 0.25;
  oscillator.frequency.value = hz;
  oscillator.connect(gain).connect(context.destination);
  oscillator.start();
  return () => {
    oscillator.stop();
    void context.close();
  };
}
