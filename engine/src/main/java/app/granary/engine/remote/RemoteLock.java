package app.granary.engine.remote;

import java.io.IOException;
import java.nio.channels.FileLock;

/** A whole file of another machine, held for whoever opened it. */
final class RemoteLock extends FileLock {
    private volatile boolean valid = true;

    RemoteLock(RemoteChannel channel) {
        super(channel, 0, Long.MAX_VALUE, false);
    }

    @Override
    public boolean isValid() {
        return valid && acquiredBy().isOpen();
    }

    @Override
    public void release() throws IOException {
        valid = false;
        ((RemoteChannel) acquiredBy()).unlock();
    }
}
