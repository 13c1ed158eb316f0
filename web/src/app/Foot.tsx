interface FootProps {
  keys: () => void;
  find: () => void;
  why: () => void;
  light: () => void;
}

/** The thin foot with the keys; each is a touch target too. */
export function Foot({ keys, find, why, light }: FootProps) {
  return (
    <footer className="foot">
      <span className="wide-only"><kbd>1</kbd>…<kbd>0</kbd> stage</span>
      <span className="wide-only"><kbd>R</kbd> next reading</span>
      <button type="button" onClick={why}><kbd>W</kbd> why</button>
      <button type="button" onClick={find}><kbd>/</kbd> find</button>
      <button type="button" onClick={light}><kbd>L</kbd> light</button>
      <button type="button" onClick={keys}><kbd>?</kbd> keys</button>
    </footer>
  );
}
