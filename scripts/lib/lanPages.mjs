import QRCode from 'qrcode';

/** @typedef {{ address: string, others: readonly string[], until: Date, fingerprint: string }} Told */

const escaped = (/** @type {string} */ text) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
const picture = async (/** @type {string} */ text) =>
  `data:image/svg+xml;base64,${Buffer.from(await QRCode.toString(text, { type: 'svg', margin: 2 })).toString('base64')}`;

const STYLE = `
  body { margin: 0 auto; max-width: 46rem; padding: 1.2rem; font: 1.15rem/1.45 system-ui, sans-serif; color: #2b211c; background: #fafbf9 }
  h1 { font-size: 1.9rem; line-height: 1.15 } h2 { font-size: 1.35rem; margin: 1.6rem 0 .2rem }
  li { margin: .35rem 0 } .codes { display: flex; flex-wrap: wrap; gap: 1.5rem }
  figure { margin: 0; width: 13rem } figure img { width: 100%; border: 1px solid #2b211c } figcaption { font-size: 1rem }
  .steps { display: flex; flex-wrap: wrap; gap: .8rem }
  a.do { display: inline-block; padding: .9rem 1.3rem; background: #e28f16; color: #2b211c; font-weight: 700; text-decoration: none }
  .print { font-family: ui-monospace, monospace; font-size: .95rem; overflow-wrap: anywhere }
  .mind { border-left: .35rem solid #9d1434; padding-left: .9rem }
  @media (prefers-color-scheme: dark) { body { color: #f1ece6; background: #221b17 } figure img { border-color: #f1ece6 } }`;
const page = (/** @type {string} */ title, /** @type {string} */ body) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><style>${STYLE}</style><body>${body}</body></html>`;

/** How the phones of each kind come to trust the bush's own authority, and how they stop. */
const KINDS = [
  {
    name: 'Android',
    trust: [
      'Fetch the certificate above; it is put among the downloads.',
      'Settings, Security, Encryption and credentials, Install a certificate, <b>CA certificate</b>. The phone warns you: this is what it warns of.',
      'Choose <b>baumkin.crt</b>.'
    ],
    remove: 'Settings, Security, Encryption and credentials, Trusted credentials, User: touch it, Remove.'
  },
  {
    name: 'iPhone and iPad',
    trust: [
      'Fetch the certificate above in Safari and allow the profile to be loaded.',
      'Settings, General, VPN and Device Management: install the profile.',
      'Settings, General, About, Certificate Trust Settings: switch it on.'
    ],
    remove: 'Settings, General, VPN and Device Management: the profile, Remove.'
  },
  {
    name: 'Laptop',
    trust: [
      'Fetch the certificate above.',
      'In the settings of the browser look for “certificates”, Authorities, Import, and let it identify websites.'
    ],
    remove: 'In the same place: choose it among the authorities, Delete.'
  }
];

/** What is shown on plain http: how to come in, for each kind of phone. @param {Told} told */
export async function joinPage({ address, others, until, fingerprint }) {
  const plain = address.replace('https:', 'http:');
  const codes = await Promise.all([picture(`${plain}/baumkin.crt`), picture(address)]);
  return page(
    'Into the bush',
    `<h1>Into the bush with this phone</h1>
<p>Once, and before the woods: the phone has to know this computer by a certificate. Then Baumkin opens, comes onto the phone and works without a network.</p>
<p class="steps"><a class="do" href="/baumkin.crt">1. Fetch the certificate</a> <a class="do" href="${escaped(address)}">2. Open Baumkin</a></p>
<div class="codes"><figure><img alt="A code that leads to the certificate" src="${codes[0]}"><figcaption>1. the certificate</figcaption></figure>
<figure><img alt="A code that leads to ${escaped(address)}" src="${codes[1]}"><figcaption>2. ${escaped(address)}</figcaption></figure></div>
<p class="mind">Compare before you trust: the computer that serves the bush shows this same fingerprint where it was started.<br><span class="print">${escaped(fingerprint)}</span></p>
<p>It vouches for this computer alone (${others.map((each) => escaped(each.replace('https://', ''))).join(', ')}), for nothing else that the phone opens, and ends on ${until.toISOString().slice(0, 10)}. When the season is over, take it off the phone again.</p>
${KINDS.map(({ name, trust, remove }) => `<h2>${name}</h2><ol>${trust.map((step) => `<li>${step}</li>`).join('')}</ol><p><b>To remove it:</b> ${remove}</p>`).join('')}
<p>Menus are called a little otherwise on some phones.</p>`
  );
}

/** What is shown under a name that the certificate does not know. @param {Told} told */
export function wrongNamePage({ others }) {
  return page(
    'Another name',
    `<h1>This computer has another name</h1><p>Baumkin answers here under these addresses alone:</p><ul>${others
      .map((each) => `<li><a href="${escaped(each)}">${escaped(each)}</a></li>`)
      .join('')}</ul>`
  );
}

/** The address as a code for a terminal. @param {string} text @returns {Promise<string>} */
export const codeForTerminal = (text) => QRCode.toString(text, { type: 'terminal', small: true });
