import type { startAuthentication, startRegistration } from "@simplewebauthn/browser";
import { api } from "../shared/api/calls";

type Creation = Parameters<typeof startRegistration>[0]["optionsJSON"];
type Request = Parameters<typeof startAuthentication>[0]["optionsJSON"];

/** Makes a passkey on this device; the browser asks the person. */
export async function makePasskey(name: string) {
  const { startRegistration } = await import("@simplewebauthn/browser");
  const { options } = await api.beginPasskey();
  const answer = await startRegistration({ optionsJSON: options as unknown as Creation });
  return api.keepPasskey({ ...answer }, name);
}

/** Signs in with a passkey of this device. */
export async function withPasskey() {
  const { startAuthentication } = await import("@simplewebauthn/browser");
  const { options } = await api.passkeyOptions();
  const answer = await startAuthentication({ optionsJSON: options as unknown as Request });
  return api.signInPasskey({ ...answer });
}
