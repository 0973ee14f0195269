import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answer, api, keepToken, loadSession } from "../../api/client";
import { queryClient, sessionQuery } from "../../api/queries";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Waiting } from "../../components/Page";
import { Door } from "./Door";
import { Stack } from "./SignInPage";

/** A one-time link: choose name and password, and in. */
export function WelcomePage() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const [name, setName] = useState<string | null>(null);
  const [password, setPassword] = useState("");
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: async () => {
      await loadSession();
      return answer(() => api.GET("/api/invitations/{token}", { params: { path: { token } } }));
    },
  });
  const accept = useMutation({
    mutationFn: () =>
      answer(() =>
        api.POST("/api/invitations/{token}", {
          params: { path: { token } },
          body: { name: name ?? invitation.data?.name ?? "", password },
        }),
      ),
    onSuccess: (session) => {
      queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
      navigate("/");
    },
  });
  return (
    <Door title="Welcome">
      {invitation.data ? (
        <Stack
          onSubmit={(event) => {
            event.preventDefault();
            accept.mutate();
          }}
        >
          <Field
            label="Your name"
            hint="As it stands beside your entries."
            value={name ?? invitation.data.name}
            onChange={setName}
            autoComplete="username"
            maxLength={40}
          />
          <Field
            label="New password"
            hint="At least 10 characters; three or four words are good."
            type="password"
            value={password}
            onChange={setPassword}
            autoComplete="new-password"
            maxLength={200}
          />
          <ProblemNotice problem={accept.error} />
          <Button kind="main" type="submit" isDisabled={accept.isPending}>
            Go in
          </Button>
        </Stack>
      ) : (
        <Waiting query={invitation} what="the link" />
      )}
    </Door>
  );
}
