/**
 * Runs in the document before its first paint: on a long sheet the step in hand is in sight at once. Done only when the application’s
 * scripts are there, the page would jump under a finger that is on its way down.
 */
export const FIRST_LOOK = `(()=>{const l=document.getElementById("sheet"),s=l&&l.querySelector("[data-station-in-hand]");if(!s)return;const t=s.getBoundingClientRect().top-l.getBoundingClientRect().top;if(l.scrollHeight>l.clientHeight&&t>l.clientHeight*.55)l.scrollTo({top:l.scrollTop+t-120})})()`;
