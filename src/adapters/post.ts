/** A letter or text on its way out. */
export interface OutgoingMessage {
  readonly channel: 'email' | 'text';
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly body: string;
}
/** A way out for messages. Answers with what became of the message; never throws for a refused address. */
export interface PostDriver {
  deliver(message: OutgoingMessage): Promise<'delivered' | 'bounced'>;
}
/** The post room's own mail server and phone: everything arrives, nothing leaves this machine. */
export const simulatedPost: PostDriver = {
  deliver: () => Promise.resolve('delivered'),
};
