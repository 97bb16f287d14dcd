/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    app: import('./server/office/app').App;
    person: import('./server/office/auth').SignedIn;
  }
}
