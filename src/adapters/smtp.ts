import { Readable } from "node:stream";
import { createTransport } from "nodemailer";
import type SMTPTransport from "nodemailer/lib/smtp-transport";
import MailComposer from "nodemailer/lib/mail-composer";
import { htmlPart, type Delivery } from "../core/messages";
import type { PostDriver } from "./post";

interface SmtpError {
  readonly code?: string;
  readonly responseCode?: number;
  readonly response?: string;
  readonly message: string;
}

/** How long the other side is waited for, in ms; all of it together is less than a letter's claim holds. */
const patience = { connectionTimeout: 30_000, greetingTimeout: 30_000, socketTimeout: 60_000 };

/**
 * Real mail by SMTP (RFC 5321). A message keeps its Message-ID on every try. What the server refuses for good (5xx)
 * bounces; what failed before the whole letter was over there is tried later; and where the line broke after that,
 * nobody knows whether the server has it.
 */
export function smtpPost(url: string): PostDriver {
  return {
    outside: true,
    async deliver(message): Promise<Delivery> {
      const domain = message.from.email.split("@")[1] ?? "localhost";
      const { logo } = message;
      const logoId = `logo@${domain}`;
      const letter = await new MailComposer({
        from: { name: message.from.name, address: message.from.email },
        to: { name: message.toName, address: message.to },
        subject: message.subject,
        text: message.body,
        html: htmlPart(message.body, logo && logoId),
        messageId: `<${message.id}@${domain}>`,
        attachments: [
          ...(logo
            ? [
                {
                  cid: logoId,
                  contentType: logo.contentType,
                  contentDisposition: "inline" as const,
                  content: Buffer.from(logo.bytes),
                },
              ]
            : []),
          ...message.attachments.map(({ title, contentType, bytes }) => ({
            filename: title,
            contentType,
            content: Buffer.from(bytes),
          })),
        ],
        headers: { "Auto-Submitted": "auto-generated" },
      })
        .compile()
        .build();
      // Until it is asked for (354), the server has nothing of the letter, whatever of it was made ready to go.
      let dataAsked = false;
      const quiet = (): void => undefined;
      const logger = {
        level: quiet,
        trace: quiet,
        info: quiet,
        warn: quiet,
        error: quiet,
        fatal: quiet,
        debug: ({ tnx }: { readonly tnx?: string }, said: string) => {
          if (tnx === "server" && said.startsWith("354")) dataAsked = true;
        },
      };
      const transport = createTransport({ url, ...patience, logger, debug: true } as SMTPTransport.Options);
      let allGiven = false;
      const raw = Readable.from(
        (function* () {
          yield letter;
          allGiven = true;
        })(),
      );
      try {
        await transport.sendMail({ envelope: { from: message.from.email, to: [message.to] }, raw });
        return { outcome: "delivered" };
      } catch (cause) {
        const error = cause as SmtpError;
        const trouble = (error.response ?? error.code ?? "The mail server did not answer.").slice(0, 200);
        if (error.responseCode !== undefined && error.responseCode >= 500) return { outcome: "bounced", trouble };
        return { outcome: error.responseCode === undefined && dataAsked && allGiven ? "unsure" : "later", trouble };
      }
    },
  };
}
