/** Names that code in an event handler's attribute finds before the global ones (HTML 8.1.8.1, scope). */

/** Of the element, of its form and of the document: their functions, and what handlers ask of them. */
const members: ReadonlySet<string> = new Set(
  // HTMLElement, Element and Node
  (
    'click focus blur remove append prepend before after closest matches animate attachInternals getAttribute setAttribute ' +
    'removeAttribute toggleAttribute hasAttribute querySelector querySelectorAll getElementsByClassName getElementsByTagName ' +
    'scrollIntoView scrollTo scrollBy scroll insertAdjacentHTML insertAdjacentText insertAdjacentElement appendChild removeChild ' +
    'replaceChild replaceChildren replaceWith insertBefore cloneNode contains hasChildNodes normalize addEventListener ' +
    'removeEventListener dispatchEvent requestFullscreen requestPointerLock getBoundingClientRect showPopover hidePopover ' +
    'togglePopover attachShadow getAnimations checkVisibility setPointerCapture releasePointerCapture style className classList id ' +
    'title lang dir hidden tabIndex accessKey draggable innerHTML outerHTML innerText outerText textContent dataset children ' +
    'firstChild lastChild childNodes nextSibling previousSibling parentNode parentElement firstElementChild lastElementChild ' +
    'nextElementSibling previousElementSibling tagName nodeName nodeType nodeValue ownerDocument attributes isConnected scrollTop ' +
    'scrollLeft offsetTop offsetLeft offsetWidth offsetHeight clientWidth clientHeight contentEditable inert autofocus popover ' +
    // Forms and what stands in them
    'submit reset select checkValidity reportValidity setCustomValidity requestSubmit setSelectionRange setRangeText stepUp stepDown ' +
    'showPicker add item namedItem form value checked defaultValue defaultChecked selectedIndex options selectedOptions elements ' +
    'action method target enctype name type disabled readOnly required placeholder files validity validationMessage labels text ' +
    'selected index multiple size maxLength min max step pattern list width height src alt href rel download hash host hostname ' +
    'pathname port protocol search origin ' +
    // Media, dialogs, details, tables, canvases
    'play pause load canPlayType fastSeek currentTime duration paused ended muted volume playbackRate controls loop autoplay poster ' +
    'show showModal close requestClose open returnValue insertRow deleteRow insertCell deleteCell rows cells tBodies getContext toBlob ' +
    'toDataURL captureStream decode complete naturalWidth naturalHeight currentSrc ' +
    // Document
    'write writeln getElementById getElementsByName createElement createTextNode createRange elementFromPoint execCommand ' +
    'getSelection hasFocus exitFullscreen importNode adoptNode cookie body head forms images links scripts documentElement ' +
    'activeElement readyState referrer domain URL charset characterSet designMode defaultView location fonts timeline anchors ' +
    'all styleSheets visibilityState lastModified compatMode doctype implementation fullscreenElement'
  ).split(' '),
);

/** True for what a handler has without any script of the page. */
export function isOfElement(name: string): boolean {
  return members.has(name);
}
