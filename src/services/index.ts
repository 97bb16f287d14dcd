/** The use cases, for the framework's pages and endpoints: they come with the server, not with the framework's bundle. */
export * as context from './context';
export * as errors from './errors';
export * as goods from './goods/goods';
export * as pictures from './goods/pictures';
export * as bench from './sites/bench';
export * as bringIn from './sites/bring-in';
export * as host from './sites/host';
export * as menus from './sites/menus';
export * as overview from './sites/overview';
export * as placing from './sites/placing';
export * as publish from './sites/publish';
export * as render from './sites/render';
export * as shopPages from './sites/shop-pages';
export * as site from './sites/site';
export * as slip from './sites/slip';
export * as views from './storefront/views';
export * as orders from './till/orders';
