import { Link } from 'react-router';

/** The way back from a page of the estate to its lists. */
export const BackToEstate = () => (
  <p className="text-ink-3">
    <Link className="link" to="/estate">
      Estate
    </Link>
  </p>
);
