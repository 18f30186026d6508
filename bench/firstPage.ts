import { chromium } from '@playwright/test';
import { report } from './measure';

const KB = 1024;
/** What the first page may take over the wire, in KB, without the worker. */
const ALLOWED = { scripts: 180, styles: 30 };

/** Bytes over the wire until the first page stands still, told by the browser. The worker's scripts are its own. */
async function overTheWire(address: string): Promise<{ scripts: number; styles: number }> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  const page = await browser.newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  const types = new Map<string, string>();
  const bytes = { scripts: 0, styles: 0 };
  session.on('Network.responseReceived', ({ requestId, type }) => types.set(requestId, type));
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (types.get(requestId) === 'Script') bytes.scripts += encodedDataLength;
    if (types.get(requestId) === 'Stylesheet') bytes.styles += encodedDataLength;
  });
  await page.goto(address, { waitUntil: 'networkidle' });
  await browser.close();
  return bytes;
}

/** How much has to come before there is something to see. @param address of the app without games */
export async function firstPageLines(address: string): Promise<void> {
  const { scripts, styles } = await overTheWire(address);
  const line = { reference: 'allowance', limit: 1, unit: 'KB' as const };
  report({ ...line, name: 'first page: scripts over the wire', ours: scripts / KB, theirs: ALLOWED.scripts });
  report({ ...line, name: 'first page: styles over the wire', ours: styles / KB, theirs: ALLOWED.styles });
}
