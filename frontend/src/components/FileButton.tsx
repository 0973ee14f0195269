import styled from "styled-components";

type Props = {
  children: string;
  accept: string;
  onFile: (file: File) => void;
  isMain?: boolean;
  /** A phone then opens its camera at once. */
  capture?: "environment";
};

/** Chooses a file, or takes a picture; looks and is reached like a button. */
export function FileButton({ children, accept, onFile, isMain, capture }: Props) {
  return (
    <Label $main={Boolean(isMain)}>
      {children}
      <input
        type="file"
        accept={accept}
        capture={capture}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </Label>
  );
}

const Label = styled.label<{ $main: boolean }>`
  position: relative;
  display: inline-flex;
  align-items: center;
  min-height: ${({ theme }) => theme.target};
  padding: var(--near) 1.125rem;
  border: 2px solid ${({ theme }) => theme.color.ink};
  border-radius: 3px;
  background: ${({ theme, $main }) => ($main ? theme.color.ink : "transparent")};
  color: ${({ theme, $main }) => ($main ? theme.color.onInk : theme.color.ink)};
  font-weight: 700;
  cursor: pointer;
  &:focus-within { outline: 3px solid ${({ theme }) => theme.color.pencil}; outline-offset: 2px; }
  input { position: absolute; width: 1px; height: 1px; opacity: 0; }
`;
