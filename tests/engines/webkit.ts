import { spawn, type ChildProcess } from "node:child_process";
import type { Driver, Key } from "./driver";

const keys: Readonly<Record<Key, string>> = {
  Tab: "\uE004",
  Enter: "\uE007",
  Space: " ",
  ArrowDown: "\uE015",
  Escape: "\uE00C",
};
const miniBrowser = process.env["MINIBROWSER"] ?? "/usr/lib/x86_64-linux-gnu/webkit2gtk-4.1/MiniBrowser";
const display = ":97";
const port = 4477;

/**
 * WebKitGTK, the engine that phones from one maker are held to, by plain WebDriver over HTTP, in a window nobody sees.
 */
export async function webkitDriver(): Promise<Driver> {
  const processes: ChildProcess[] = [];
  const run = (command: string, args: readonly string[]): void =>
    void processes.push(
      spawn(command, args, {
        stdio: "ignore",
        env: {
          ...process.env,
          DISPLAY: display,
          LANG: "en_GB.UTF-8",
          // The sandbox needs rights that a test machine does not give.
          WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: "1",
        },
      }),
    );
  run("Xvfb", [display, "-screen", "0", "390x844x24"]);
  run("WebKitWebDriver", [`--port=${port}`]);
  const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const response = await fetch(`http://127.0.0.1:${port}${path}`, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const { value } = (await response.json()) as { value: T & { error?: string; message?: string } };
    if (!response.ok) throw new Error(`WebKit: ${value.error ?? response.status} ${value.message ?? ""}`);
    return value;
  };
  const until = async <T>(work: () => Promise<T>): Promise<T> => {
    for (let tries = 0; ; tries++) {
      try {
        return await work();
      } catch (error) {
        if (tries > 40) throw error;
        await new Promise((resolve) => setTimeout(resolve, 250));
      }
    }
  };
  await until(() => ask("GET", "/status"));
  const { sessionId } = await until(() =>
    ask<{ sessionId: string }>("POST", "/session", {
      capabilities: {
        alwaysMatch: {
          "webkitgtk:browserOptions": { binary: miniBrowser, args: ["--automation", "--full-screen"] },
        },
      },
    }),
  );
  const at = `/session/${sessionId}`;
  const type = async (text: string): Promise<void> => {
    await ask("POST", `${at}/actions`, {
      actions: [
        {
          type: "key",
          id: "keyboard",
          actions: [...text].flatMap((value) => [
            { type: "keyDown", value },
            { type: "keyUp", value },
          ]),
        },
      ],
    });
  };
  return {
    name: "WebKit",
    goto: async (url) => void (await ask("POST", `${at}/url`, { url })),
    evaluate: <T>(body: string, ...args: readonly unknown[]) =>
      ask<T>("POST", `${at}/execute/sync`, { script: `const args = arguments[0]; ${body}`, args: [args] }),
    press: (key) => type(keys[key]),
    type,
    async draw([first, ...points]) {
      const move = ({ x, y }: { readonly x: number; readonly y: number }) => ({
        type: "pointerMove",
        duration: 0,
        x: Math.round(x),
        y: Math.round(y),
        origin: "viewport",
      });
      await ask("POST", `${at}/actions`, {
        actions: [
          {
            type: "pointer",
            id: "hand",
            parameters: { pointerType: "mouse" },
            actions: [
              move(first!),
              { type: "pointerDown", button: 0 },
              ...points.map(move),
              { type: "pointerUp", button: 0 },
            ],
          },
        ],
      });
    },
    async anotherTab() {
      const { handle } = await ask<{ handle: string }>("POST", `${at}/window/new`, { type: "tab" });
      await ask("DELETE", `${at}/window`);
      await ask("POST", `${at}/window`, { handle });
    },
    async close() {
      await ask("DELETE", at).catch(() => undefined);
      for (const one of processes.reverse()) one.kill("SIGTERM");
    },
  };
}
