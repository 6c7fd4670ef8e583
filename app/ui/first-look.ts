/**
 * Runs in the document before its first paint: the zone a page of zones opens on, and the step in hand within it, are in sight at once.
 * Done only when the application’s scripts are there, the page would jump under a finger that is on its way down.
 */
export const FIRST_LOOK = `(()=>{const z=document.querySelector(".zones"),l=document.getElementById("sheet"),s=l&&l.querySelector("[data-station-in-hand]");if(!z||!s)return;const f=document.getElementById(z.dataset.first);if(f&&z.scrollWidth>z.clientWidth+1)f.scrollIntoView({behavior:"instant",inline:"start",block:"nearest"});const t=s.getBoundingClientRect().top-l.getBoundingClientRect().top;if(l.scrollHeight>l.clientHeight&&t>l.clientHeight*.55)l.scrollTo({top:l.scrollTop+t-120})})()`;
