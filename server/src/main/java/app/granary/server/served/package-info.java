/** Images that are read as disks, or started as computers, while somebody works with them. */
package app.granary.server.served;
