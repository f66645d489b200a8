/** Reads aloud with the browser's own voice, where there is one. */
export const canSpeak = (): boolean =>
  typeof speechSynthesis !== "undefined" && typeof SpeechSynthesisUtterance !== "undefined";

export function speak(words: string): void {
  if (!canSpeak()) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
export const hush = (): void => {
  if (canSpeak()) speechSynthesis.cancel();
};
