/**
 * Runs in the document before any script of the application. A form pressed so early is sent by the browser itself, and its answer is a new
 * page. Until that is there this one takes nothing any more: it may come to life meanwhile, and what was tapped or typed on it would be
 * gone with it. Where no page comes it is given back after a while; our choice of how long.
 */
const GIVEN_BACK = 10_000;

export const SENT_EARLY = `addEventListener("submit",e=>{const f=e.target;if("live"in document.documentElement.dataset||f.getAttribute("method")!="post"||f.target||new URL(f.getAttribute("action")||"",location).pathname!=location.pathname)return;setTimeout(()=>{if(e.defaultPrevented)return;document.body.inert=true;setTimeout(()=>{document.body.inert=false},${GIVEN_BACK})})},true);addEventListener("pageshow",()=>{document.body.inert=false})`;
