import type { Id } from "../core/shared";
import type { Delivery, PostSimulation } from "../core/messages";

/** A letter or text on its way out. */
export interface OutgoingMessage {
  readonly channel: "email" | "text";
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly body: string;
  readonly files?: readonly { readonly id: Id<"File">; readonly title: string }[];
}
/** With what a server outside needs to know it again. */
export interface PostedMessage extends OutgoingMessage {
  /** Names the message for good: the same on every try. */
  readonly id: string;
  readonly attachments: readonly { readonly title: string; readonly contentType: string; readonly bytes: Uint8Array }[];
  readonly from: { readonly name: string; readonly email: string };
  /** The practice's own picture. */
  readonly logo?: { readonly contentType: string; readonly bytes: Uint8Array };
}
/** A way out for messages. Answers with what became of the message; never throws for what the other side did. */
export interface PostDriver {
  /** Whether a message leaves this process: then a try that was cut off may have got through. */
  readonly outside: boolean;
  /** The same for messages of one channel, where channels differ. */
  leaves?(channel: OutgoingMessage["channel"]): boolean;
  deliver(message: PostedMessage, simulation: PostSimulation): Promise<Delivery>;
}
/** The Post room's own mail server and phone: nothing leaves this machine, and they behave as they are told. */
export const simulatedPost: PostDriver = {
  outside: false,
  deliver: (_, simulation) => {
    const fate = (): Delivery => {
      if (simulation === "deliver") return { outcome: "delivered" };
      if (simulation === "bounce") return { outcome: "bounced", trouble: "No such address (simulated)." };
      return { outcome: "later", trouble: "The gateway is slow (simulated)." };
    };
    return Promise.resolve(fate());
  },
};
/** E-mails one way, texts another. */
export const byChannel = (drivers: Readonly<Record<OutgoingMessage["channel"], PostDriver>>): PostDriver => ({
  outside: Object.values(drivers).some((d) => d.outside),
  leaves: (channel) => drivers[channel].outside,
  deliver: (message, simulation) => drivers[message.channel].deliver(message, simulation),
});
