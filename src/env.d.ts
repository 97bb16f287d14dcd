/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    app: import('./server/office/app').App;
    owner: import('./server/office/auth').Owner;
  }
}
