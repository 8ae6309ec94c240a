import { createServer, request, type Server } from "node:http";
import type { AddressInfo, Socket } from "node:net";

/** Listens on the page for what goes wrong there, from before its own scripts. */
const listener = `window.__trouble = [];
const note = (what) => window.__trouble.push(String(what).slice(0, 300));
addEventListener("error", (e) => note("error: " + (e.message || (e.target && (e.target.src || e.target.href)) || "")), true);
addEventListener("unhandledrejection", (e) => note("rejection: " + (e.reason && (e.reason.stack || e.reason.message) || e.reason)));
document.addEventListener("securitypolicyviolation", (e) => note("policy: " + e.violatedDirective + " " + e.blockedURI + " " + e.sample));
const said = console.error;
console.error = (...all) => { note("console: " + all.join(" ")); said.apply(console, all); };`;

/** The line between a device and the practice: it can go down, and each page that comes over it is listened to. */
export class Line {
  private server: Server | undefined;
  private readonly open = new Set<Socket>();
  private isDown = false;
  constructor(private readonly port: number) {}
  async start(): Promise<string> {
    const server = createServer((incoming, outgoing) => {
      if (this.isDown) {
        incoming.socket.destroy();
        return;
      }
      const onward = request(
        {
          host: "127.0.0.1",
          port: this.port,
          method: incoming.method,
          path: incoming.url,
          headers: { ...incoming.headers, "accept-encoding": "identity" },
        },
        (answer) => {
          const policy = String(answer.headers["content-security-policy"] ?? "");
          const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
          const isPage = String(answer.headers["content-type"] ?? "").startsWith("text/html") && nonce !== undefined;
          if (!isPage) {
            outgoing.writeHead(answer.statusCode ?? 502, answer.headers);
            answer.pipe(outgoing);
            return;
          }
          const { "content-length": _length, ...headers } = answer.headers;
          outgoing.writeHead(answer.statusCode ?? 502, headers);
          let begun = false;
          answer.setEncoding("utf8");
          answer.on("data", (text: string) => {
            const at = begun ? -1 : text.indexOf("<head>");
            begun ||= at >= 0;
            outgoing.write(
              at < 0
                ? text
                : `${text.slice(0, at + 6)}<script nonce="${nonce}">${listener}</script>${text.slice(at + 6)}`,
            );
          });
          answer.on("end", () => outgoing.end());
        },
      );
      onward.on("error", () => outgoing.destroy());
      incoming.pipe(onward);
    });
    server.on("connection", (socket) => {
      this.open.add(socket);
      socket.on("close", () => this.open.delete(socket));
    });
    this.server = server;
    await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
    return `http://localhost:${(server.address() as AddressInfo).port}`;
  }
  down(): void {
    this.isDown = true;
    for (const socket of this.open) socket.destroy();
  }
  up(): void {
    this.isDown = false;
  }
  stop(): void {
    for (const socket of this.open) socket.destroy();
    this.server?.close();
  }
}
