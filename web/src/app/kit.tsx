import "./kit.css";

const LIST = (
  <span className="list-sign" aria-hidden="true">
    ▾
  </span>
);
const TURNING = <span className="turning" aria-hidden="true" />;

/** The kit's own signs have English names that would be read aloud: these have none, as what they stand in says it. */
export const SIGNS = {
  select: { suffixIcon: LIST, loadingIcon: TURNING },
  button: { loadingIcon: TURNING },
};
