import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { type ChoiceProps, FieldLabel } from "./Fields";

/** One of many choices, in a list that opens. */
export function Pick<T extends string>({ label, value, onChange, options }: ChoiceProps<T>) {
  return (
    <Select selectedKey={value} onSelectionChange={(next) => onChange(next as T)}>
      <FieldLabel>{label}</FieldLabel>
      <PickButton>
        <SelectValue />
        <span aria-hidden="true">▾</span>
      </PickButton>
      <List>
        <ListBox>
          {options.map(([key, word]) => (
            <Item key={key} id={key}>
              {word}
            </Item>
          ))}
        </ListBox>
      </List>
    </Select>
  );
}

const PickButton = styled(Button)`
  display: flex;
  justify-content: space-between;
  gap: var(--near);
  width: 100%;
  min-height: ${({ theme }) => theme.target};
  padding: var(--slit) var(--gap);
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-radius: 3px;
  background: ${({ theme }) => theme.color.paper};
  text-align: left;
  cursor: pointer;
`;
const List = styled(Popover)`
  min-width: var(--trigger-width);
  max-height: 60vh;
  overflow: auto;
  border: 2px solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  color: ${({ theme }) => theme.color.ink};
`;
const Item = styled(ListBoxItem)`
  padding: var(--near) var(--apart);
  min-height: ${({ theme }) => theme.target};
  cursor: pointer;
  &[data-focused] { background: ${({ theme }) => theme.color.tape}; color: ${({ theme }) => theme.color.onTape}; }
  &[data-selected] { font-weight: 750; }
`;
