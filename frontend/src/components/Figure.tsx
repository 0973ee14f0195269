import { Field } from "./Fields";

type Props<Name extends string> = {
  /** From `useTold`. */
  of: { text: (name: Name) => string; type: (next: Partial<Record<Name, string>>) => void };
  name: Name;
  label: string;
  unit: string;
  hint?: string;
};

/** One number of a thing with its unit, typed over what is kept. */
export function Figure<Name extends string>({ of, name, label, unit, hint }: Props<Name>) {
  return (
    <Field
      label={label}
      name={name}
      unit={unit}
      numeric
      value={of.text(name)}
      onChange={(text) => of.type({ [name]: text } as Partial<Record<Name, string>>)}
      hint={hint}
      maxLength={12}
    />
  );
}
