import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON,
} from "@simplewebauthn/server";

/** A device's key as it is kept; nothing in it opens anything. */
export interface KeptPasskey {
  /** Base64url. */
  readonly id: string;
  readonly publicKey: Uint8Array;
  readonly counter: number;
  readonly transports: readonly string[];
}
/** W3C Web Authentication, Level 2: a device proves that it holds a key that was made for this address alone. */
export interface Passkeys {
  /** What a device needs to make a key; `known` are those it is not to make again. */
  offer(
    person: { readonly id: string; readonly email: string; readonly name: string },
    practice: string,
    known: readonly KeptPasskey[],
  ): Promise<PublicKeyCredentialCreationOptionsJSON>;
  /** The key a device made, where it signed this challenge; undefined for anything else. */
  made(response: unknown, challenge: string): Promise<KeptPasskey | undefined>;
  ask(known: readonly KeptPasskey[]): Promise<PublicKeyCredentialRequestOptionsJSON>;
  /** How often the key was used by its own count, where it signed this challenge; undefined for anything else. */
  used(response: unknown, challenge: string, passkey: KeptPasskey): Promise<number | undefined>;
}

type Transports = NonNullable<RegistrationResponseJSON["response"]["transports"]>;
const named = (known: readonly KeptPasskey[]) =>
  known.map(({ id, transports }) => ({ id, transports: transports as Transports }));

/** @param origin where the app is reached; keys are made for its host */
export function passkeysFor(origin: string): Passkeys {
  const rpID = new URL(origin).hostname;
  const expected = { expectedOrigin: origin, expectedRPID: rpID };
  return {
    offer: (person, practice, known) =>
      generateRegistrationOptions({
        rpName: practice,
        rpID,
        userID: new Uint8Array(new TextEncoder().encode(person.id)),
        userName: person.email,
        userDisplayName: person.name,
        attestationType: "none",
        excludeCredentials: named(known),
        authenticatorSelection: { residentKey: "preferred", userVerification: "preferred" },
      }),
    async made(response, challenge) {
      // What is malformed throws; to whoever sent it that is no key either.
      const result = await verifyRegistrationResponse({
        response: response as RegistrationResponseJSON,
        expectedChallenge: challenge,
        ...expected,
        // The password was typed before: the key alone is the second thing one has.
        requireUserVerification: false,
      }).catch(() => undefined);
      if (!result?.verified) return undefined;
      const { id, publicKey, counter, transports = [] } = result.registrationInfo.credential;
      return { id, publicKey: new Uint8Array(publicKey), counter, transports };
    },
    ask: (known) =>
      generateAuthenticationOptions({ rpID, allowCredentials: named(known), userVerification: "preferred" }),
    async used(response, challenge, { id, publicKey, counter, transports }) {
      const result = await verifyAuthenticationResponse({
        response: response as AuthenticationResponseJSON,
        expectedChallenge: challenge,
        ...expected,
        credential: { id, publicKey: new Uint8Array(publicKey), counter, transports: transports as Transports },
        requireUserVerification: false,
      }).catch(() => undefined);
      return result?.verified ? result.authenticationInfo.newCounter : undefined;
    },
  };
}
