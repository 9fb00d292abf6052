// Asks a server for something small all the time, in a process of its own: what the benchmark itself works out meanwhile, such as the
// large estate, is not taken for a wait. Tells the longest when it is told to end.
const [, , url, cookie] = process.argv;
let over = false;
process.once('message', () => (over = true));
let longestMs = 0;
process.send('ready');
while (!over) {
  const asked = performance.now();
  const response = await fetch(`${url}/api/session`, { headers: { cookie, 'x-underpass': '1' } });
  await response.text();
  if (!response.ok) throw new Error(`the session is answered with ${response.status}`);
  longestMs = Math.max(longestMs, performance.now() - asked);
  await new Promise((resolve) => setTimeout(resolve, 5));
}
process.send(longestMs, () => process.exit(0));
