/** Where bytes come from and where they are put back: raw files and block devices. Nothing is null. Offsets and lengths are bytes. */
package app.granary.engine.source;
