import { Field } from "../../components/Fields";

type Typed = { name: string; value: string; onChange: (value: string) => void };

/** A password: one that somebody has, or one that they choose. */
export function PasswordField({ label, typed, isNew = false }: { label: string; typed: Typed; isNew?: boolean }) {
  return (
    <Field
      label={label}
      hint={isNew ? "At least 10 characters; three or four words are good." : undefined}
      type="password"
      {...typed}
      autoComplete={isNew ? "new-password" : "current-password"}
      maxLength={200}
    />
  );
}
