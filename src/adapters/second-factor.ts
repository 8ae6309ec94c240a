import { generateSecret, generateURI, verify } from "otplib";
import QRCode from "qrcode";
import { instantMs, type Instant } from "../core/shared";

export interface SecondFactor {
  newSecret(): string;
  /** What an authenticator app scans, as SVG markup, and the same as a link. */
  setUp(secret: string, account: string, issuer: string): Promise<{ uri: string; svg: string }>;
  /** The time step a right code belongs to; undefined for a wrong one, or one of a step already used. */
  stepOf(secret: string, code: string, now: Instant, lastStep: number): Promise<number | undefined>;
}
/** RFC 6238: 6 digits, 30 s steps, one step of tolerance either way. */
export const totpFactor: SecondFactor = {
  newSecret: () => generateSecret(),
  async setUp(secret, account, issuer) {
    const uri = generateURI({ issuer, label: account, secret });
    return { uri, svg: await QRCode.toString(uri, { type: "svg", margin: 1 }) };
  },
  async stepOf(secret, code, now, lastStep) {
    if (!/^\d{6}$/.test(code)) return undefined;
    const epoch = Math.floor(instantMs(now) / 1000);
    const result = await verify({ secret, token: code, epoch, epochTolerance: 30 });
    if (!result.valid) return undefined;
    const step = Math.floor(epoch / 30) + result.delta;
    return step > lastStep ? step : undefined;
  },
};
