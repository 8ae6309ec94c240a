import type { AddressInfo } from "node:net";
import { SMTPServer, type SMTPServerOptions } from "smtp-server";

/** A mail server that keeps what it took, and can be told to behave badly. */
export class MailServer {
  readonly took: { readonly id: string; readonly to: string; readonly body: string }[] = [];
  private server: SMTPServer | undefined;
  async open(more: SMTPServerOptions = {}, dropAfterTaking = false): Promise<string> {
    this.server = new SMTPServer({
      authOptional: true,
      disabledCommands: ["STARTTLS", "AUTH"],
      onData: (stream, session, done) => {
        let body = "";
        stream.on("data", (d: Buffer) => {
          body += d.toString();
        });
        stream.on("end", () => {
          this.took.push({
            id: /^Message-ID: <([^>]+)>/im.exec(body)![1]!,
            to: session.envelope.rcptTo[0]!.address,
            body,
          });
          // The letter is in, and the line breaks before anybody is told.
          if (dropAfterTaking) this.cut();
          else done();
        });
      },
      ...more,
    });
    this.server.on("error", () => undefined);
    await new Promise<void>((resolve) => this.server!.listen(0, "127.0.0.1", resolve));
    return `smtp://127.0.0.1:${(this.server.server.address() as AddressInfo).port}`;
  }
  /** Breaks every line there is. */
  cut(): void {
    const { connections } = this.server as unknown as { connections: Set<{ _socket: { destroy(): void } }> };
    for (const connection of connections) connection._socket.destroy();
  }
  close = (): Promise<void> =>
    new Promise((resolve) => {
      if (this.server) this.server.close(() => resolve());
      else resolve();
    });
}
