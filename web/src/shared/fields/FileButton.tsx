import { Button } from "antd";
import { useRef } from "react";

interface FileButtonProps {
  /** What the file is, for readers of screens. */
  label: string;
  accept: string;
  busy: boolean;
  /** A picture, taken with the camera at the back where there is one. */
  camera?: boolean;
  take: (file: File) => void;
  children: string;
}

/** A button that takes a file; the same file may be taken again. */
export function FileButton({ label, accept, busy, camera = false, take, children }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="unseen"
        capture={camera ? "environment" : undefined}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = "";
          if (chosen !== undefined) take(chosen);
        }}
      />
      <Button loading={busy} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
