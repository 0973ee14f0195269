import { useMutation } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api } from "../../api/client";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";
import { Door } from "./Door";
import { enter } from "./enter";
import { PasskeySignIn } from "./PasskeySignIn";
import { PasswordField } from "./PasswordField";

/** Name and password. */
export function SignInPage() {
  const typed = useTyped({ name: "", password: "" });
  const signIn = useMutation({
    mutationFn: () => answer(() => api.POST("/api/session", { body: typed.values })),
    onSuccess: enter,
  });
  return (
    <Door title="Sign in">
      <Stack problem={signIn.error} send="Sign in" isSending={signIn.isPending} onSend={() => signIn.mutate()}>
        <Field label="Name" {...typed.field("name")} autoComplete="username" maxLength={80} autoFocus />
        <PasswordField label="Password" typed={typed.field("password")} />
      </Stack>
      <PasskeySignIn />
      <p>No account yet, or the password forgotten? A coordinator gives you a one-time link.</p>
    </Door>
  );
}

export const Stack = styled(AskForm)`display: grid; gap: var(--block);`;
