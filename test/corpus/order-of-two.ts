/**
 * Of two scripts, u.js that needs what l.js makes: how each is loaded, which tag stands first, and what puts it right (`-`
 * where no single mend does). In all other cases nothing is amiss.
 */
export const orderOfTwo = `
at once | at once | user first | move l.js before u.js
at once | defer | user first | defer u.js as well, behind l.js
at once | defer | maker first | defer u.js as well
at once | async | user first | -
at once | async | maker first | load l.js without async
at once | async defer | user first | -
at once | async defer | maker first | -
at once | module | user first | defer u.js as well, behind l.js
at once | module | maker first | defer u.js as well
at once | module defer | user first | defer u.js as well, behind l.js
at once | module defer | maker first | defer u.js as well
at once | async module | user first | -
at once | async module | maker first | -
at once | code | user first | move index.html:1 before u.js
at once | module code | user first | defer u.js as well, behind index.html:1
at once | module code | maker first | defer u.js as well
defer | defer | user first | move l.js before u.js
defer | async | user first | load l.js without async
defer | async | maker first | defer l.js instead of async
defer | async defer | user first | -
defer | async defer | maker first | load l.js without async
defer | module | user first | move l.js before u.js
defer | module defer | user first | move l.js before u.js
defer | async module | user first | -
defer | async module | maker first | load l.js without async
defer | module code | user first | move index.html:1 before u.js
async | at once | user first | defer u.js instead of async
async | defer | user first | defer u.js instead of async, behind l.js
async | defer | maker first | defer u.js instead of async
async | async | user first | -
async | async | maker first | load l.js without async
async | async defer | user first | -
async | async defer | maker first | -
async | module | user first | defer u.js instead of async, behind l.js
async | module | maker first | defer u.js instead of async
async | module defer | user first | defer u.js instead of async, behind l.js
async | module defer | maker first | defer u.js instead of async
async | async module | user first | -
async | async module | maker first | -
async | code | user first | defer u.js instead of async
async | module code | user first | defer u.js instead of async, behind index.html:1
async | module code | maker first | defer u.js instead of async
async defer | at once | user first | load u.js without async
async defer | defer | user first | load u.js without async, behind l.js
async defer | defer | maker first | load u.js without async
async defer | async | user first | -
async defer | async | maker first | load l.js without async
async defer | async defer | user first | -
async defer | async defer | maker first | -
async defer | module | user first | load u.js without async, behind l.js
async defer | module | maker first | load u.js without async
async defer | module defer | user first | load u.js without async, behind l.js
async defer | module defer | maker first | load u.js without async
async defer | async module | user first | -
async defer | async module | maker first | -
async defer | code | user first | load u.js without async
async defer | module code | user first | load u.js without async, behind index.html:1
async defer | module code | maker first | load u.js without async
module | defer | user first | move l.js before u.js
module | async | user first | load l.js without async
module | async | maker first | defer l.js instead of async
module | async defer | user first | -
module | async defer | maker first | load l.js without async
module | module | user first | move l.js before u.js
module | module defer | user first | move l.js before u.js
module | async module | user first | -
module | async module | maker first | load l.js without async
module | module code | user first | move index.html:1 before u.js
module defer | defer | user first | move l.js before u.js
module defer | async | user first | load l.js without async
module defer | async | maker first | defer l.js instead of async
module defer | async defer | user first | -
module defer | async defer | maker first | load l.js without async
module defer | module | user first | move l.js before u.js
module defer | module defer | user first | move l.js before u.js
module defer | async module | user first | -
module defer | async module | maker first | load l.js without async
module defer | module code | user first | move index.html:1 before u.js
async module | at once | user first | load u.js without async
async module | defer | user first | load u.js without async, behind l.js
async module | defer | maker first | load u.js without async
async module | async | user first | -
async module | async | maker first | load l.js without async
async module | async defer | user first | -
async module | async defer | maker first | -
async module | module | user first | load u.js without async, behind l.js
async module | module | maker first | load u.js without async
async module | module defer | user first | load u.js without async, behind l.js
async module | module defer | maker first | load u.js without async
async module | async module | user first | -
async module | async module | maker first | -
async module | code | user first | load u.js without async
async module | module code | user first | load u.js without async, behind index.html:1
async module | module code | maker first | load u.js without async
code | at once | user first | move l.js before index.html:1
code | defer | user first | -
code | defer | maker first | load l.js without defer
code | async | user first | -
code | async | maker first | load l.js without async
code | async defer | user first | -
code | async defer | maker first | -
code | module | user first | -
code | module | maker first | -
code | module defer | user first | -
code | module defer | maker first | -
code | async module | user first | -
code | async module | maker first | -
code | code | user first | move index.html:1 before index.html:1
code | module code | user first | -
code | module code | maker first | -
module code | defer | user first | move l.js before index.html:1
module code | async | user first | load l.js without async
module code | async | maker first | defer l.js instead of async
module code | async defer | user first | -
module code | async defer | maker first | load l.js without async
module code | module | user first | move l.js before index.html:1
module code | module defer | user first | move l.js before index.html:1
module code | async module | user first | -
module code | async module | maker first | load l.js without async
module code | module code | user first | move index.html:1 before index.html:1
`;
