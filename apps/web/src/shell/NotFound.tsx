import { Link } from 'react-router';

export function NotFound() {
  return (
    <main className="p-6">
      <h1>There is no such page</h1>
      <p className="text-ink-2 mt-2">The address may be mistyped, or what it showed was removed.</p>
      <p className="mt-4">
        <Link className="btn" to="/board">
          Go to the Board
        </Link>
      </p>
    </main>
  );
}
