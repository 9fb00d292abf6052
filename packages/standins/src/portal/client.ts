import type { PortalEstate, PortalReport } from '@underpass/contracts';

/** What the portal asks of Underpass and tells it. */
export interface Underpass {
  estate: () => Promise<PortalEstate>;
  report: (report: PortalReport) => Promise<void>;
  /** Who a link is for; null where it is no longer good. */
  link: (id: string) => Promise<{ targetKind: string; target: string } | null>;
}

/** Underpass over its programming interface, with the key both were started with. */
export function underpassAt(url: string, key: string): Underpass {
  const headers = { authorization: `Bearer ${key}` };
  const get = async (path: string) => {
    const response = await fetch(`${url}/api/portal/${path}`, { headers });
    if (response.status === 404 || response.status === 410) return null;
    if (!response.ok) throw new Error(`Underpass answered ${response.status}`);
    return response.json();
  };
  return {
    estate: async () => (await get('estate')) as PortalEstate,
    link: async (id) => (await get(`links/${encodeURIComponent(id)}`)) as { targetKind: string; target: string } | null,
    report: async (report) => {
      const response = await fetch(`${url}/api/portal/reports`, {
        method: 'POST',
        headers: { ...headers, 'content-type': 'application/json' },
        body: JSON.stringify(report),
      });
      if (!response.ok) throw new Error(`Underpass did not take the report: ${response.status}`);
    },
  };
}
