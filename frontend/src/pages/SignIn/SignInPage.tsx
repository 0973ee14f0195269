import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, keepToken } from "../../api/client";
import { queryClient, sessionQuery } from "../../api/queries";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Door } from "./Door";

/** Name and password. */
export function SignInPage() {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => answer(() => api.POST("/api/session", { body: { name, password } })),
    onSuccess: (session) => queryClient.setQueryData(sessionQuery.queryKey, keepToken(session)),
  });
  return (
    <Door title="Sign in">
      <Stack
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <Field label="Name" value={name} onChange={setName} autoComplete="username" maxLength={80} autoFocus />
        <Field
          label="Password"
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          maxLength={200}
        />
        <ProblemNotice problem={signIn.error} />
        <Button kind="main" type="submit" isDisabled={signIn.isPending}>
          Sign in
        </Button>
      </Stack>
      <p>No account yet, or the password forgotten? A coordinator gives you a one-time link.</p>
    </Door>
  );
}

export const Stack = styled(Form)`display: grid; gap: 1rem;`;
