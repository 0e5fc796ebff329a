import type { BaseMapFit, BushSettings, SiteFeature, Stand } from '@baumkin/core/records';

import { api, asked } from './api.ts';
import type { Glance } from './overview.ts';

/** The bush that is changed. */
interface Changed {
  readonly id: string;
  readonly overview: Glance | null;
  readonly refresh: () => Promise<void>;
}

/**
 * Changes of what the bush is as a whole. They are made from the version that is seen, so that nobody's change is written
 * over; each gives a sentence where it was refused, and null when it is done.
 */
export class BushChanges {
  constructor(readonly bush: Changed) {}

  /** Changes some of the bush's own numbers. */
  async settings(settings: Partial<BushSettings>): Promise<string | null> {
    return this.#change(
      api.PATCH('/bushes/{bush}/settings', { params: this.#here, body: { ...this.#seen, settings } })
    );
  }

  /** Lets the others see one's own share of brown wood under one's name, or no more. */
  async ownFigures(showsHoles: boolean): Promise<string | null> {
    return this.#change(api.PATCH('/bushes/{bush}/members', { params: this.#here, body: { showsHoles } }));
  }

  /** Puts the trees into a new walking order. */
  async walk(order: readonly string[]): Promise<string | null> {
    return this.#change(api.PUT('/bushes/{bush}/walk', { params: this.#here, body: { order: [...order] } }));
  }

  /** Draws a stand, or another shape of it. */
  async stand(stand: Stand): Promise<string | null> {
    const params = { path: { bush: this.bush.id, stand: stand.id } };
    return this.#change(api.PUT('/bushes/{bush}/stands/{stand}', { params, body: { ...this.#seen, stand } }));
  }

  /** Draws something else on the ground, or another shape of it. */
  async feature(feature: SiteFeature): Promise<string | null> {
    const params = { path: { bush: this.bush.id, feature: feature.id } };
    return this.#change(api.PUT('/bushes/{bush}/features/{feature}', { params, body: { ...this.#seen, feature } }));
  }

  /** Takes a stand away; its trees stay. */
  async withoutStand(stand: string): Promise<string | null> {
    const params = { path: { bush: this.bush.id, stand } };
    return this.#change(api.DELETE('/bushes/{bush}/stands/{stand}', { params, body: this.#seen }));
  }

  /** Takes something else on the ground away. */
  async withoutFeature(feature: string): Promise<string | null> {
    const params = { path: { bush: this.bush.id, feature } };
    return this.#change(api.DELETE('/bushes/{bush}/features/{feature}', { params, body: this.#seen }));
  }

  /** Says where on earth the bush lies. */
  async origin(origin: { lat: number; lon: number }): Promise<string | null> {
    return this.#change(api.PATCH('/bushes/{bush}', { params: this.#here, body: { ...this.#seen, origin } }));
  }

  /** Lays a picture under the map, or takes it away. */
  async baseMap(picture: { pictureBase64: string; fit: BaseMapFit } | null): Promise<string | null> {
    const params = this.#here;
    return this.#change(
      picture
        ? api.PUT('/bushes/{bush}/base-map', { params, body: picture })
        : api.DELETE('/bushes/{bush}/base-map', { params })
    );
  }

  get #here() {
    return { path: { bush: this.bush.id } };
  }

  /** the version that a change is made from */
  get #seen() {
    return { version: this.bush.overview?.bush.version ?? 0 };
  }

  async #change(call: Parameters<typeof asked>[0]): Promise<string | null> {
    const answer = await asked(call);
    if (answer.problem === null) {
      await this.bush.refresh();
      return null;
    }
    return answer.status === null
      ? 'There is no network. That changes only where the server can be reached; nothing was changed.'
      : answer.problem;
  }
}
