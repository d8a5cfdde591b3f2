package app.granary.engine.remote;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Future;

/**
 * Bytes of a file that are here or on their way.
 *
 * @param bytes how many, from {@code at} on
 */
record RemotePiece(long at, int bytes, Future<byte[]> content) {
    static final RemotePiece NONE = new RemotePiece(-1, 0, CompletableFuture.completedFuture(new byte[0]));

    boolean holds(long place) {
        return place >= at && place < end();
    }

    long end() {
        return at + bytes;
    }
}
