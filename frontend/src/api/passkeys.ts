import { WebAuthnError } from "@simplewebauthn/browser";
import { answer, api, once, Problem, type Schemas, type Session } from "./client";

type Me = Schemas["MeOut"];
/** The device's side is loaded where somebody uses it. */
const device = () => import("@simplewebauthn/browser");

/** Whether this browser, at this address, can hold and ask for passkeys: by https, or on this computer by its name. */
export const canUsePasskeys = (): boolean =>
  window.isSecureContext && "PublicKeyCredential" in window && !/^[\d.[\]:]+$/.test(window.location.hostname);

/** Signs in with whichever passkey the device offers. */
export async function signInByPasskey(): Promise<Session> {
  const { startAuthentication } = await device();
  const { options } = await answer(() => api.POST("/api/session/passkey-question"));
  const said = await asked(() => startAuthentication({ optionsJSON: options as never }));
  return answer(() =>
    api.POST("/api/session/passkey", { body: { answer: said as unknown as Record<string, unknown> } }),
  );
}

/** Makes a passkey on this device; the password is asked for before. */
export async function addPasskey(password: string): Promise<Me> {
  const { startRegistration } = await device();
  const { options } = await answer(() => api.POST("/api/me/passkey-question", { body: { password } }));
  const said = await asked(() => startRegistration({ optionsJSON: options as never }));
  const body = { answer: said as unknown as Record<string, unknown> };
  return answer(() => api.POST("/api/me/passkeys", { body, headers: once() }));
}

async function asked<T>(ask: () => Promise<T>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    if (error instanceof WebAuthnError && error.code === "ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED")
      throw new Problem("passkey-known", "This device holds a passkey for you already: sign in with it.");
    if (error instanceof WebAuthnError || error instanceof DOMException)
      throw new Problem(
        "passkey-refused",
        "The device gave no passkey: it was broken off, took too long, or holds none.",
      );
    throw error;
  }
}
