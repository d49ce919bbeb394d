import { generateKeyPairSync, X509Certificate } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { isIP } from "node:net";
import { join } from "node:path";
import forge from "node-forge";

/** What a server answers HTTPS with, and the authority that a device has to trust for it; all as PEM. */
export interface Certificate {
  key: string;
  cert: string;
  authority: string;
}

const AUTHORITY_YEARS = 10;
/** Browsers trust no server's certificate that is valid for longer. */
const SERVER_DAYS = 397;
/** So long before its end it is made anew. */
const RENEW_DAYS = 30;
const DAY_MS = 86_400_000;
const BITS = 2048;

/**
 * The server's own certificate for the names and addresses by which it is called, kept in `folder`: signed by an authority of its
 * own, which a device is told to trust once. The server's is made anew when it ends soon or a name is not in it; the authority
 * stays, so that devices go on trusting it.
 */
export async function serverCertificate(
  folder: string,
  names: readonly string[],
  now: Date,
): Promise<Certificate> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const files = {
    authority: join(folder, "authority.pem"),
    authorityKey: join(folder, "authority-key.pem"),
    cert: join(folder, "server.pem"),
    key: join(folder, "server-key.pem"),
  };
  let [authority, authorityKey] = [await textOf(files.authority), await textOf(files.authorityKey)];
  if (authority === null || authorityKey === null || daysLeft(authority, now) < RENEW_DAYS) {
    const made = newAuthority(now);
    [authority, authorityKey] = [made.cert, made.key];
    await writeFile(files.authorityKey, authorityKey, { mode: 0o600 });
    await writeFile(files.authority, authority);
  }
  const [cert, key] = [await textOf(files.cert), await textOf(files.key)];
  if (cert !== null && key !== null && isGood(cert, authority, names, now)) return { cert, key, authority };
  const made = signed({ authority, authorityKey }, names, now);
  await writeFile(files.key, made.key, { mode: 0o600 });
  await writeFile(files.cert, made.cert);
  return { ...made, authority };
}

const textOf = (file: string): Promise<string | null> =>
  readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return null;
    throw error;
  });

const daysLeft = (pem: string, now: Date): number =>
  (Date.parse(new X509Certificate(pem).validTo) - now.getTime()) / DAY_MS;

/** Whether a server's certificate is of this authority, not about to end, and for all of these names. */
function isGood(pem: string, authority: string, names: readonly string[], now: Date): boolean {
  const cert = new X509Certificate(pem);
  const has = (name: string) => (isIP(name) === 0 ? cert.checkHost(name) : cert.checkIP(name)) !== undefined;
  return (
    cert.verify(new X509Certificate(authority).publicKey) &&
    daysLeft(pem, now) >= RENEW_DAYS &&
    names.every(has)
  );
}

/** Keys are made by Node, which takes a moment; forge would take many seconds. */
function newKeys() {
  const { publicKey, privateKey } = generateKeyPairSync("rsa", {
    modulusLength: BITS,
    publicKeyEncoding: { type: "spki", format: "pem" },
    privateKeyEncoding: { type: "pkcs1", format: "pem" },
  });
  return {
    publicKey: forge.pki.publicKeyFromPem(publicKey),
    privateKey: forge.pki.privateKeyFromPem(privateKey),
  };
}

function blank(subject: string, now: Date, days: number) {
  const keys = newKeys();
  const cert = forge.pki.createCertificate();
  cert.publicKey = keys.publicKey;
  // A positive number of its own, by which a device tells certificates apart.
  cert.serialNumber = `01${forge.util.bytesToHex(forge.random.getBytesSync(15))}`;
  // Clocks of devices differ a little.
  cert.validity.notBefore = new Date(now.getTime() - DAY_MS);
  cert.validity.notAfter = new Date(now.getTime() + (days - 1) * DAY_MS);
  cert.setSubject([{ name: "commonName", value: subject }]);
  return { keys, cert };
}

function newAuthority(now: Date): { key: string; cert: string } {
  const { keys, cert } = blank("Yosegi on this network", now, AUTHORITY_YEARS * 365);
  cert.setIssuer(cert.subject.attributes);
  cert.setExtensions([
    { name: "basicConstraints", cA: true, critical: true },
    { name: "keyUsage", keyCertSign: true, cRLSign: true, critical: true },
    { name: "subjectKeyIdentifier" },
  ]);
  cert.sign(keys.privateKey, forge.md.sha256.create());
  return { key: forge.pki.privateKeyToPem(keys.privateKey), cert: forge.pki.certificateToPem(cert) };
}

function signed(
  { authority, authorityKey }: { authority: string; authorityKey: string },
  names: readonly string[],
  now: Date,
): { key: string; cert: string } {
  const { keys, cert } = blank(names[0] ?? "localhost", now, SERVER_DAYS);
  cert.setIssuer(forge.pki.certificateFromPem(authority).subject.attributes);
  cert.setExtensions([
    { name: "basicConstraints", cA: false },
    { name: "keyUsage", digitalSignature: true, keyEncipherment: true, critical: true },
    { name: "extKeyUsage", serverAuth: true },
    {
      name: "subjectAltName",
      altNames: names.map((name) => (isIP(name) === 0 ? { type: 2, value: name } : { type: 7, ip: name })),
    },
  ]);
  cert.sign(forge.pki.privateKeyFromPem(authorityKey), forge.md.sha256.create());
  return { key: forge.pki.privateKeyToPem(keys.privateKey), cert: forge.pki.certificateToPem(cert) };
}
