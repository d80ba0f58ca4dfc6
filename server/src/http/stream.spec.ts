import { get, type IncomingMessage } from 'node:http';
import { TestShop } from '../testing/shop.js';

/** Opens the stream as a browser would and collects what comes. */
function listen(
  address: string,
  lastEventId?: string,
): Promise<{ response: IncomingMessage; text: () => string; stop: () => void }> {
  return new Promise((resolve, reject) => {
    const request = get(
      `${address}/api/v1/events`,
      {
        headers: {
          'Accept-Encoding': 'gzip, br',
          ...(lastEventId ? { 'Last-Event-ID': lastEventId } : {}),
        },
      },
      (response) => {
        let text = '';
        response.setEncoding('utf8');
        response.on('data', (chunk: string) => (text += chunk));
        resolve({ response, text: () => text, stop: () => request.destroy() });
      },
    );
    request.on('error', reject);
  });
}

const until = async (done: () => boolean): Promise<void> => {
  for (let i = 0; i < 200 && !done(); i++) await new Promise((next) => setTimeout(next, 20));
};

describe('the event stream', () => {
  it('tells every accepted command, uncompressed, with the journal’s number', async () => {
    const shop = await TestShop.open();
    const stream = await listen(shop.serving.address);
    expect(stream.response.headers['content-type']).toBe('text/event-stream');
    expect(stream.response.headers['content-encoding']).toBeUndefined();
    const { bladeId } = await shop.newBlade();
    await until(() => stream.text().includes(bladeId));
    expect(stream.text()).toContain('"what":"blade registered"');
    expect(stream.text()).toMatch(/id: \d+/);
    stream.stop();
    await shop.close();
  });

  it('resumes where a tab left off', async () => {
    const shop = await TestShop.open();
    const { sequence } = await shop.send({
      type: 'register-blades',
      specId: shop.specId,
      count: 1,
    });
    const { bladeId } = await shop.newBlade();
    const stream = await listen(shop.serving.address, String(sequence));
    await until(() => stream.text().includes(bladeId));
    expect(stream.text()).toContain(bladeId);
    expect(stream.text()).not.toContain(`id: ${sequence}\n`);
    stream.stop();
    await shop.close();
  });

  it('ends when the server stops', async () => {
    const shop = await TestShop.open();
    const stream = await listen(shop.serving.address);
    let ended = false;
    stream.response.on('end', () => (ended = true));
    await shop.close();
    await until(() => ended);
    expect(ended).toBeTrue();
  });
});
