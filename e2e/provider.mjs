// An identity provider on loopback for the browser tests: one page that asks who one is.
import { Provider } from 'oidc-provider';
import { createServer } from 'node:http';

const people = {
  mara: { email: 'mara@saltmarsh.example', name: 'Mara Quill', roles: ['access-team'] },
  odo: { email: 'odo@saltmarsh.example', name: 'Odo Thrift', roles: ['strangers'] },
};

export async function openProvider(port, underpass) {
  const issuer = `http://localhost:${port}`;
  const [clientId, clientSecret] = ['underpass', 'a secret of the browser tests'];
  const provider = new Provider(issuer, {
    clients: [
      {
        client_id: clientId,
        client_secret: clientSecret,
        redirect_uris: [`${underpass}/api/session/provider/back`],
        post_logout_redirect_uris: [`${underpass}/`],
      },
    ],
    claims: { openid: ['sub', 'email', 'email_verified', 'name', 'roles'] },
    conformIdTokenClaims: false,
    features: { devInteractions: { enabled: false } },
    findAccount: (_context, id) => ({ accountId: id, claims: () => ({ sub: id, email_verified: true, ...people[id] }) }),
    interactions: { url: (_context, interaction) => `/interaction/${interaction.uid}` },
    cookies: { keys: ['of the browser tests'] },
  });
  const callback = provider.callback();
  const server = createServer((request, response) => {
    const match = /^\/interaction\/([^/?]+)(?:\/as\/(\w+))?$/.exec(request.url ?? '');
    if (!match) return void callback(request, response);
    const who = match[2];
    if (!who) {
      response.setHeader('content-type', 'text/html');
      return void response.end(
        `<!doctype html><title>Who are you</title>${Object.keys(people)
          .map((id) => `<p><a href="/interaction/${match[1]}/as/${id}">Go on as ${people[id].name}</a></p>`)
          .join('')}`,
      );
    }
    const finish = async () => {
      const grant = new provider.Grant({ accountId: who, clientId });
      grant.addOIDCScope('openid email profile');
      await provider.interactionFinished(
        request,
        response,
        { login: { accountId: who }, consent: { grantId: await grant.save() } },
        { mergeWithLastSubmission: true },
      );
    };
    finish().catch((error) => response.end(error.message));
  });
  await new Promise((resolve) => server.listen(port, 'localhost', resolve));
  return {
    env: {
      OIDC_ISSUER: issuer,
      OIDC_CLIENT_ID: clientId,
      OIDC_CLIENT_SECRET: clientSecret,
      OIDC_NAME: 'Saltmarsh sign-in',
      OIDC_ROLES: 'access-team=engineer',
    },
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}
