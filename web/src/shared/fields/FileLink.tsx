import { useMutation } from "@tanstack/react-query";
import { fileFrom } from "../api/transport";
import { useStop } from "../api/stopping";
import { ProblemNote } from "../judging/ProblemNote";
import { Working } from "./Working";

/** By then the browser has taken the file. */
const TAKEN_MS = 60_000;

interface FileLinkProps {
  href: string;
  /** What is being made, while it is. */
  doing: string;
  className?: string;
  children: string;
}

/** A file that takes a while to be made: it is said for how long, and can be stopped. */
export function FileLink({ href, doing, className, children }: FileLinkProps) {
  const { begun, stop } = useStop();
  const make = useMutation({
    mutationFn: () => fileFrom(href, begun()),
    onSuccess: ({ name, data }) => {
      const file = URL.createObjectURL(data);
      const link = document.createElement("a");
      link.href = file;
      link.download = name;
      link.click();
      setTimeout(() => URL.revokeObjectURL(file), TAKEN_MS);
    },
  });
  return (
    <>
      <a
        className={className}
        href={href}
        onClick={(event) => {
          // Another tab, or a copy of the address, is the browser's own.
          if (event.ctrlKey || event.metaKey || event.shiftKey) return;
          event.preventDefault();
          if (!make.isPending) make.mutate();
        }}
      >
        {children}
      </a>
      <Working is={make.isPending} doing={doing} stop={stop} />
      <ProblemNote error={make.error} />
    </>
  );
}
