import { createContext, useCallback, useContext, useMemo, useState } from 'react';

interface Notice {
  text: string;
  /** What is known a moment later, and told behind it. */
  more?: Promise<string | null>;
  action?: { label: string; run: () => void };
}
const NoticeContext = createContext<(notice: Notice) => void>(() => undefined);
export const useNotice = () => useContext(NoticeContext);

/** A line at the foot of the page that says what was done and how to take it back. It stays until it is closed. */
export function NoticeArea({ children }: { children: React.ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const show = useCallback((next: Notice) => {
    setNotice(next);
    // only while it is still this one that stands there
    void next.more?.then((text) => text && setNotice((now) => (now === next ? { ...next, text: `${next.text} ${text}` } : now)));
  }, []);
  const value = useMemo(() => show, [show]);
  return (
    <NoticeContext value={value}>
      {children}
      <div role="status" className="fixed bottom-0 inset-x-0 z-30 pointer-events-none">
        {notice && (
          <div className="pointer-events-auto bg-ink text-paper flex gap-4 items-center px-6 py-2.5">
            <span className="flex-1">{notice.text}</span>
            {notice.action && (
              <button
                className="btn btn-small !border-paper !text-paper !bg-transparent"
                onClick={() => {
                  notice.action?.run();
                  setNotice(null);
                }}
              >
                {notice.action.label}
              </button>
            )}
            <button className="btn btn-small !border-transparent !text-paper !bg-transparent" onClick={() => setNotice(null)}>
              Close
            </button>
          </div>
        )}
      </div>
    </NoticeContext>
  );
}
