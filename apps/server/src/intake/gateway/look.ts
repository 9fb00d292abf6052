import type { PeerCertificate } from 'node:tls';
import { connect } from 'node:tls';
import { isIP } from 'node:net';
import type { GatewaySeen } from '@underpass/contracts';
import type { Target } from '../../outward/targets.js';
import { ProblemError } from '../../problems/problem.js';

const withinMs = 8000;
type Version = 'TLSv1.2' | 'TLSv1.3';

interface Met {
  certificate: PeerCertificate;
  /** Why nobody vouches for it; null where somebody everybody knows does. */
  fault: string | null;
}

/** Greets it with one version of TLS alone; null where it does not speak that one. Nothing is sent but the greeting. */
function meet({ host, address, port }: Target, version: Version): Promise<Met | { refused: string }> {
  return new Promise((resolve) => {
    const socket = connect({
      ...{ host: address, port, minVersion: version, maxVersion: version },
      // it is looked at, not trusted: whether it is vouched for is what is asked
      rejectUnauthorized: false,
      ...(isIP(host) ? {} : { servername: host }),
    });
    const end = (met: Met | { refused: string }) => {
      socket.destroy();
      resolve(met);
    };
    socket.setTimeout(withinMs, () => end({ refused: 'it does not answer in time' }));
    socket.once('error', (error: Error & { code?: string }) => end({ refused: error.code ?? error.message }));
    socket.once('secureConnect', () => {
      const fault = socket.authorized ? null : String(socket.authorizationError ?? 'not vouched for');
      end({ certificate: socket.getPeerCertificate(), fault });
    });
  });
}

const day = (text: string): string => new Date(text).toISOString().slice(0, 10);
/** Names a certificate is for [RFC 5280 4.2.1.6]; without any, the common name of old. */
function namesOf({ subjectaltname, subject }: PeerCertificate): string[] {
  const names = (subjectaltname ?? '').split(',').flatMap((part) => /^\s*(?:DNS|IP Address):(.+)$/.exec(part)?.[1]?.trim() ?? []);
  const common = [subject?.CN ?? []].flat();
  return [...new Set(names.length ? names : common)].map((name) => name.slice(0, 253)).slice(0, 200);
}

/** What a gateway shows to whoever greets it: its certificate, who vouches for it, and the versions of TLS it speaks. */
export async function lookAtGateway(target: Target): Promise<GatewaySeen> {
  const [newer, older] = await Promise.all([meet(target, 'TLSv1.3'), meet(target, 'TLSv1.2')]);
  const met = 'certificate' in newer ? newer : 'certificate' in older ? older : null;
  if (!met) {
    const { refused } = newer as { refused: string };
    const told = refused === 'ECONNREFUSED' ? 'nobody answers there' : refused;
    throw new ProblemError(422, 'Not seen', `${target.host}:${target.port}: ${told}.`);
  }
  const names = namesOf(met.certificate);
  if (names.length === 0) throw new ProblemError(422, 'Not seen', `The certificate of ${target.host} is for no name.`);
  return {
    names,
    ...{ notBefore: day(met.certificate.valid_from), notAfter: day(met.certificate.valid_to) },
    // of several faults one is told: that it is over does not say that somebody vouched for it
    ...{ public: met.fault === null, fault: met.fault },
    issuer: [met.certificate.issuer?.CN ?? met.certificate.issuer?.O ?? []].flat().join(', ').slice(0, 200),
    tlsHighest: 'certificate' in newer ? '1.3' : '1.2',
    tlsMinimum: 'certificate' in older ? '1.2' : '1.3',
  };
}
