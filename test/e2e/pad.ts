import type { Page } from "@playwright/test";

/**
 * Puts a controller behind the browser's own interface before the page loads: the page's code cannot tell.
 * `name` is what it calls itself: the bench remembers as which model that was tested. `window.pad` moves it:
 * axes, buttons, and whether it is plugged in. `play` names a script that it runs by itself.
 */
export async function injectPad(
  page: Page,
  play?: "quick-look",
  count = 1,
  name = "Bench pad (made up)",
): Promise<void> {
  await page.addInitScript(
    ([script, pads, id]) => {
      const second = {
        axes: [0, 0, 0, 0],
        buttons: Array.from({ length: 17 }, () => 0),
        plugged: pads === 2,
      };
      const rumbled: unknown[] = [];
      Object.assign(window, { second, rumbled });
      const actuator = {
        playEffect: (_kind: string, effect: unknown) => {
          rumbled.push(effect);
          return Promise.resolve("complete");
        },
      };
      const pad = {
        axes: [0, 0, 0, 0],
        buttons: Array.from({ length: 17 }, () => 0),
        plugged: true,
        began: -1,
      };
      (window as unknown as { pad: typeof pad }).pad = pad;
      const circle = (s: number): [number, number] => [Math.cos(s / 160), -Math.sin(s / 160)];
      const moves: [number, (s: number) => void][] = [
        [900, () => undefined],
        [1800, (s) => ([pad.axes[0], pad.axes[1]] = circle(s))],
        [500, () => ([pad.axes[0], pad.axes[1]] = [0.2, 0.03])], // it comes to rest off centre
        [1800, (s) => ([pad.axes[2], pad.axes[3]] = circle(s))],
        [300, () => ([pad.axes[2], pad.axes[3]] = [0, 0])],
        [500, (s) => (pad.buttons[6] = Math.min(1, s / 300))],
        [200, () => (pad.buttons[6] = 0)],
        [500, (s) => (pad.buttons[7] = Math.min(1, s / 300))],
        [200, () => (pad.buttons[7] = 0)],
        ...[0, 1, 2, 3, 4, 5, 8, 9, 10, 11, 12, 13, 14, 15, 16].flatMap(
          (b): [number, (s: number) => void][] => [
            [120, () => (pad.buttons[b] = 1)],
            [90, () => (pad.buttons[b] = 0)],
          ],
        ),
      ];
      const run = () => {
        if (pad.began < 0) return;
        let s = performance.now() - pad.began;
        for (const [ms, move] of moves) {
          if (s < ms) return move(s);
          move(ms);
          s -= ms;
        }
      };
      const snapshot = (p: typeof second, index: number) => {
        const now = performance.now();
        const state = {
          id,
          index,
          connected: true,
          mapping: "standard",
          timestamp: Math.floor(now / 4) * 4,
          axes: [...p.axes],
          buttons: p.buttons.map((value) => ({ value, pressed: value > 0.5, touched: value > 0 })),
          vibrationActuator: actuator,
        };
        return state as unknown as Gamepad;
      };
      Navigator.prototype.getGamepads = function () {
        if (script === "quick-look" && pad.plugged) run();
        return [
          pad.plugged ? snapshot(pad, 0) : null,
          second.plugged ? snapshot(second, 1) : null,
          null,
          null,
        ];
      };
      setTimeout(
        () =>
          window.dispatchEvent(
            Object.assign(new Event("gamepadconnected"), { gamepad: navigator.getGamepads()[0] }),
          ),
        200,
      );
    },
    [play, count, name] as const,
  );
}
