import { isIP } from 'node:net';

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|::1)$/i;

/** An address that only this machine can reach. */
export const isLoopback = (host: string): boolean => LOOPBACK.test(host);

/** Whether a Host header names this machine: another name means another site's page asks. */
export const namesLoopback = (header: string | undefined): boolean => isLoopback(nameOf(header));

/** The name or address in a Host header, without its port; empty where it has none. */
export function nameOf(header: string | undefined): string {
  const name = /^(?:\[([0-9a-f:.]+)\]|([\w.-]+))(?::\d{1,5})?$/i.exec(header ?? '');
  return name?.[1] ?? name?.[2] ?? '';
}

/** Addresses of homes and halls, which the open internet does not reach. */
const PRIVATE =
  /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|169\.254\.|f[cd][0-9a-f]{2}:|fe[89ab][0-9a-f]:)/i;

/** A warning for a host that more than this machine can reach; null where only this one can. */
export function warningFor(host: string): string | null {
  if (isLoopback(host)) return null;
  const whom =
    PRIVATE.test(host) || isIP(host) === 0
      ? 'everybody on the local network'
      : 'everybody who can reach this machine, perhaps from the internet';
  return `Listening on ${host}: ${whom} can load the app. Sessions stay in each browser.`;
}

/** The address to type into a browser. */
export function addressOf(host: string, port: number): string {
  const name = host === '0.0.0.0' || host === '::' ? 'localhost' : host;
  return `http://${isIP(name) === 6 ? `[${name}]` : name}:${port}/`;
}
