/** A step that is read to somebody, and what helps where they cannot do it. */
export interface LedStep {
  say: string;
  stuck: readonly { what: string; help: string }[];
}

/**
 * Joining the Wi-Fi of a home, as it is read to whoever sits there: the name and the key are on their own router, and nobody else has to know
 * them. Common practice, no source.
 */
export function homeJoining(thin: boolean): LedStep[] {
  const router: LedStep[] = [
    {
      say: 'Find the box that brings the internet into your home. On its back or below it is a sticker.',
      stuck: [
        {
          what: 'I cannot find the box',
          help: 'Look where the telephone or the television cable comes out of the wall. It has small lights in front.',
        },
        {
          what: 'There is no sticker',
          help: 'The same is in the letter or on the card that came with it. Or look on your telephone, under Wi-Fi, for the network it is joined to.',
        },
      ],
    },
    {
      say: 'On the sticker find the name of the network. It may be called SSID, network name or WLAN. Keep it in sight.',
      stuck: [
        { what: 'There are two names', help: 'Take the one without a 5 at its end. It reaches further.' },
        { what: 'I gave it another name', help: 'Then your own name counts. Your telephone shows it under Wi-Fi.' },
      ],
    },
  ];
  const own: LedStep[] = thin
    ? [
        {
          say: 'Switch the device on. Before it asks you to sign in, open its settings, and there the network.',
          stuck: [
            {
              what: 'It asks me to sign in at once',
              help: 'Then it has a network already. Is a cable plugged in? Pull it out, and start it again.',
            },
          ],
        },
        {
          say: 'Choose Wi-Fi. Type the name of the network exactly as it is on the sticker: capitals and small letters, dashes and spaces count.',
          stuck: [{ what: 'It shows a list instead', help: 'Choose the name from the list. It has to be the same letter for letter.' }],
        },
        {
          say: 'For the security choose WPA2. It may be written WPA2 Personal, WPA2-PSK or AES.',
          stuck: [
            {
              what: 'The sticker says WPA3',
              help: 'Choose WPA3, also written SAE. If the device has none, choose WPA2: most boxes take both.',
            },
            { what: 'The sticker says nothing of it', help: 'WPA2 is right for nearly all of them.' },
          ],
        },
        {
          say: 'Now the key. On the sticker it is called key, password or passphrase. Type it sign by sign, and let it be shown to compare. You need not tell it to me.',
          stuck: [
            {
              what: 'I cannot tell two signs apart',
              help: 'A nought is narrower than a capital O. A one has a small hook; a small L has none.',
            },
            { what: 'I changed it once', help: 'Then your own key counts, the one that your telephone has.' },
          ],
        },
        {
          say: 'Save it, and start the device again. The network comes up after that. Does it ask you to sign in now?',
          stuck: [
            {
              what: 'No, it says “No network”',
              help: 'Carry it near the box and start it once more. If it works there, the Wi-Fi is too weak where it stood. If not, type name and key anew.',
            },
          ],
        },
      ]
    : [
        {
          say: 'Open the settings of the device, and there Wi-Fi. Is it switched on?',
          stuck: [
            { what: 'I find no Wi-Fi', help: 'Look for a small fan of lines near the clock. Some devices have a switch at their side.' },
          ],
        },
        {
          say: 'In the list choose the name that is on the sticker. Another with nearly the same name is another network.',
          stuck: [
            {
              what: 'It is not in the list',
              help: 'Go nearer to the box, and wait half a minute. If it is not there then, choose “Other network” and type the name.',
            },
          ],
        },
        {
          say: 'When it asks for the key, type what the sticker calls key, password or passphrase. You need not tell it to me.',
          stuck: [
            {
              what: 'It says that the key is wrong',
              help: 'Let it be shown while you type. A nought is narrower than a capital O; capitals count.',
            },
          ],
        },
        {
          say: 'Wait half a minute. Does it say “connected” beside the name?',
          stuck: [
            {
              what: 'It says “no internet”',
              help: 'Then the Wi-Fi is joined, and the box itself has no line. Switch it off for half a minute, and on again.',
            },
          ],
        },
      ];
  return [...router, ...own];
}
