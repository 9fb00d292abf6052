import { Inject, Injectable, Logger } from '@nestjs/common';
import type { Role } from '@underpass/contracts';
import { createRemoteJWKSet, jwtVerify } from 'jose';
import * as oidc from 'openid-client';
import { CONFIG, type Config } from '../config.js';
import { PublicOrigin } from '../edge/publicOrigin.js';
import { isLoopback } from '../edge/plainAddress.js';
import { ProblemError } from '../problems/problem.js';
import { Secrets } from '../secrets/secrets.js';

/** What is remembered on the way to the provider and back, sealed in a cookie. */
interface Way {
  verifier: string;
  state: string;
  nonce: string;
  /** The session that asks for a confirmation; none for a sign-in. */
  confirms: string | null;
  until: number;
}
/** Somebody the provider vouches for. */
export interface Vouched {
  provider: string;
  email: string;
  name: string;
  role: Role;
  session: string | null;
  token: string;
  confirms: string | null;
}

const wayMs = 10 * 60_000;
const order: Role[] = ['reader', 'engineer', 'admin'];

/** Sign-in through the organisation's own identity provider: OpenID Connect, code flow with PKCE [OpenID Connect Core 1.0 3.1; RFC 7636]. */
@Injectable()
export class ProviderService {
  private readonly logger = new Logger('provider');
  private readonly secrets: Secrets;
  private found: Promise<oidc.Configuration> | null = null;
  private keys: ReturnType<typeof createRemoteJWKSet> | null = null;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly origin: PublicOrigin,
  ) {
    this.secrets = new Secrets(config.secretKey);
  }

  private get settings() {
    const { provider } = this.config;
    if (!provider) throw new ProblemError(404, 'Not found', 'No sign-in through an organisation is set up here.');
    return provider;
  }
  private get backTo(): string {
    return `${this.origin.url()}/api/session/provider/back`;
  }

  private async client(): Promise<oidc.Configuration> {
    const { issuer, clientId, clientSecret } = this.settings;
    const address = new URL(issuer);
    // without encryption only to this machine, as the tests do
    const insecure = address.protocol === 'http:' && isLoopback(address.hostname === 'localhost' ? '127.0.0.1' : address.hostname);
    this.found ??= oidc.discovery(address, clientId, undefined, oidc.ClientSecretBasic(clientSecret), {
      timeout: 10,
      // the token's signature is checked although it came straight from the provider: whoever sits between could change it
      execute: [oidc.enableNonRepudiationChecks, ...(insecure ? [oidc.allowInsecureRequests] : [])],
    });
    try {
      return await this.found;
    } catch (error) {
      this.found = null;
      this.logger.warn(`the provider does not answer: ${(error as Error).message}`);
      throw new ProblemError(503, 'No answer', 'Your organisation’s sign-in does not answer. Try again, or sign in with a password.');
    }
  }

  /** Where to send a browser, and what it has to bring back. @param confirms session that has to be confirmed, if it is that */
  async start(confirms: string | null): Promise<{ leadsTo: string; way: string }> {
    const client = await this.client();
    const way: Way = {
      verifier: oidc.randomPKCECodeVerifier(),
      state: oidc.randomState(),
      nonce: oidc.randomNonce(),
      confirms,
      until: Date.now() + wayMs,
    };
    const leadsTo = oidc.buildAuthorizationUrl(client, {
      redirect_uri: this.backTo,
      scope: this.settings.scope,
      code_challenge: await oidc.calculatePKCECodeChallenge(way.verifier),
      code_challenge_method: 'S256',
      state: way.state,
      nonce: way.nonce,
      ...(confirms ? { prompt: 'login', max_age: '0' } : {}),
    });
    return { leadsTo: leadsTo.href, way: this.secrets.seal(JSON.stringify(way)) };
  }

  /** Who came back. Everything about the answer is checked: state, nonce, code, signature, issuer, audience, times, role. */
  async finish(query: string, sealed: string | undefined): Promise<Vouched> {
    const opened = sealed === undefined ? null : this.secrets.open(sealed);
    const way = opened === null ? null : (JSON.parse(opened) as Way);
    if (!way || way.until < Date.now())
      throw new ProblemError(400, 'Too late', 'This sign-in was begun too long ago, or in another browser.');
    const client = await this.client();
    const answer = await oidc.authorizationCodeGrant(client, new URL(`${this.backTo}${query}`), {
      pkceCodeVerifier: way.verifier,
      expectedState: way.state,
      expectedNonce: way.nonce,
      idTokenExpected: true,
      ...(way.confirms ? { maxAge: 120 } : {}),
    });
    const claims = answer.claims();
    const email = typeof claims?.email === 'string' ? claims.email.trim().toLowerCase() : '';
    if (!claims || !/^[^\s@]{1,100}@[^\s@]{1,100}$/.test(email) || claims.email_verified === false)
      throw new ProblemError(403, 'Not allowed', 'Your organisation’s sign-in did not say a verified address.');
    const role = this.roleOf(claims[this.settings.roleClaim]);
    if (!role) throw new ProblemError(403, 'Not allowed', 'Your organisation’s sign-in gives you no role here. Ask who manages it.');
    const name = typeof claims.name === 'string' && claims.name.trim() ? claims.name.trim().slice(0, 120) : email;
    return {
      provider: `${claims.iss}|${claims.sub}`,
      email,
      name,
      role,
      session: typeof claims.sid === 'string' ? claims.sid : null,
      token: answer.id_token as string,
      confirms: way.confirms,
    };
  }

  /** The highest role that any of the claim's values stands for. */
  private roleOf(claim: unknown): Role | null {
    const values = (Array.isArray(claim) ? claim : [claim]).filter((value): value is string => typeof value === 'string');
    const roles = values.flatMap((value) => this.settings.roles[value] ?? []);
    return order.findLast((role) => roles.includes(role)) ?? null;
  }

  /** Where a browser ends the provider's session too [OpenID Connect RP-Initiated Logout 1.0]; null where the provider has none. */
  async signOutAddress(token: string): Promise<string | null> {
    if (!this.config.provider) return null;
    try {
      const client = await this.client();
      if (!client.serverMetadata().end_session_endpoint) return null;
      return oidc.buildEndSessionUrl(client, { id_token_hint: token, post_logout_redirect_uri: `${this.origin.url()}/` }).href;
    } catch {
      return null; // signed out here all the same
    }
  }

  /** Whose sessions the provider says are over [OpenID Connect Back-Channel Logout 1.0 2.6]. */
  async signedOutThere(logoutToken: string): Promise<{ session: string | null; provider: string | null }> {
    const client = await this.client();
    const { jwks_uri: address, issuer } = client.serverMetadata();
    if (!address) throw new ProblemError(400, 'Not valid', 'The provider names no keys.');
    this.keys ??= createRemoteJWKSet(new URL(address), { timeoutDuration: 10_000 });
    try {
      const { payload } = await jwtVerify(logoutToken, this.keys, {
        issuer,
        audience: this.settings.clientId,
        maxTokenAge: '5 minutes',
        requiredClaims: ['iat', 'jti', 'events'],
      });
      const events = payload.events as Record<string, unknown> | undefined;
      if (!events || !('http://schemas.openid.net/event/backchannel-logout' in events) || 'nonce' in payload)
        throw new Error('is no logout token');
      if (typeof payload.sid !== 'string' && typeof payload.sub !== 'string') throw new Error('names nobody');
      return {
        session: typeof payload.sid === 'string' ? payload.sid : null,
        provider: typeof payload.sub === 'string' ? `${issuer}|${payload.sub}` : null,
      };
    } catch (error) {
      if (error instanceof ProblemError) throw error;
      throw new ProblemError(400, 'Not valid', 'The logout token is not good.');
    }
  }
}
