import { heading } from './cards';
import { type Html, html } from './html';
import { fill, type StepWords, type Words } from '../languages/languages';

/** What an order bought to download: texts are ready for people. */
export interface DownloadsView {
  /** Where the forms of files go. */
  readonly action: string;
  readonly back: string;
  readonly problem: string;
  readonly things: readonly {
    readonly variantId: string;
    readonly name: string;
    readonly releases: readonly ReleaseView[];
  }[];
}

export interface ReleaseView {
  readonly name: string;
  readonly day: string;
  readonly notes: Html;
  readonly files: readonly {
    readonly hash: string;
    readonly name: string;
    readonly size: string;
    readonly may: boolean;
    readonly text: string;
  }[];
}

/** The files of an order, the newest release first; older ones are a press away. */
export function downloadsFragment(v: DownloadsView, w: Words, s: StepWords): Html {
  return html`<div class="stall-files">${v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`}${v.things.length === 0 ? html`<p class="stall-lead">${s.noFiles}</p>` : v.things.map((t) => html`<section><h2>${t.name}</h2>${t.releases.map((r, n) => (n === 0 ? html`<p class="stall-muted">${fill(w.version, { x: r.name })}, ${r.day}</p>${release(r, t.variantId, v, s)}` : html`<details><summary>${fill(w.version, { x: r.name })}, ${r.day}</summary>${release(r, t.variantId, v, s)}</details>`))}</section>`)}
<p><a href="${v.back}">${s.backToSite}</a></p></div>`;
}

function release(r: ReleaseView, variantId: string, v: DownloadsView, s: StepWords): Html {
  return html`<div class="stall-release">${r.notes.text && html`<div class="stall-description">${r.notes}</div>`}
<ul class="stall-file-list">${r.files.map((f) => html`<li><div><strong>${f.name}</strong><span class="stall-muted">${[f.size, f.text].filter(Boolean).join(' \u00b7 ')}</span></div>${f.may && html`<form method="post" action="${v.action}"><input type="hidden" name="of" value="${variantId}"><button class="stall-button" name="file" value="${f.hash}" aria-label="${fill(s.fetchNamed, { x: f.name })}">${s.fetch}</button></form>`}</li>`)}</ul></div>`;
}

/** The question for the order's mail address, for a browser that is new to it. */
export const downloadsQuestion = (v: { action: string; problem: string }, s: StepWords): Html =>
  html`<form class="stall-account" method="post" action="${v.action}" novalidate>${v.problem && html`<p class="stall-alert" role="alert" id="stall-why">${v.problem}</p>`}<p id="stall-ask">${s.filesAsk}</p>
<div class="stall-field"><label for="stall-email">${s.email}</label><input id="stall-email" name="email" type="email" required autocomplete="email" aria-describedby="${v.problem ? 'stall-why' : 'stall-ask'}"${v.problem && html` aria-invalid="true"`}></div><p><button class="stall-button">${s.openFiles}</button></p></form>`;

/** What is new in a product that is downloaded, as a widget. */
export function releasesFragment(
  v: { heading: string; level: number; releases: readonly Pick<ReleaseView, 'name' | 'day' | 'notes'>[] },
  w: Words,
): Html {
  const own = Math.min(6, v.level + (v.heading ? 1 : 0));
  return html`<section class="stall-releases">${v.heading && heading(v.level, v.heading)}${v.releases.length === 0 ? html`<p class="stall-muted">${w.noReleases}</p>` : html`<ol>${v.releases.map((r) => html`<li>${heading(own, fill(w.version, { x: r.name }))}<p class="stall-muted">${r.day}</p>${r.notes.text && html`<div class="stall-description">${r.notes}</div>`}</li>`)}</ol>`}</section>`;
}
