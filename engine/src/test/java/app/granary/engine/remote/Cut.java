package app.granary.engine.remote;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.PartsRead;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;

/** A way to a folder that counts what crosses it, and ends when so many bytes have. */
final class Cut implements RemoteFiles {
    final AtomicLong written = new AtomicLong();
    final AtomicLong read = new AtomicLong();
    private final RemoteFiles there;
    private final long afterBytes;

    Cut(RemoteFiles there, long afterBytes) {
        this.there = there;
        this.afterBytes = afterBytes;
    }

    private void cross() throws IOException {
        if (written.get() >= afterBytes) {
            throw new IOException("the cable was pulled");
        }
    }

    @Override
    public Optional<Entry> entry(String path) throws IOException {
        cross();
        return there.entry(path);
    }

    @Override
    public List<String> names(String folder) throws IOException {
        cross();
        return there.names(folder);
    }

    @Override
    public byte[] read(String path, long at, int most) throws IOException {
        cross();
        byte[] out = there.read(path, at, most);
        read.addAndGet(out.length);
        return out;
    }

    @Override
    public void open(String path, Open how) throws IOException {
        cross();
        there.open(path, how);
    }

    @Override
    public void write(String path, long at, byte[] bytes) throws IOException {
        cross();
        there.write(path, at, bytes);
        written.addAndGet(bytes.length);
    }

    @Override
    public void truncate(String path, long bytes) throws IOException {
        cross();
        there.truncate(path, bytes);
    }

    @Override
    public void force(String path) throws IOException {
        cross();
        there.force(path);
    }

    @Override
    public void makeFolder(String path) throws IOException {
        cross();
        there.makeFolder(path);
    }

    @Override
    public void delete(String path) throws IOException {
        cross();
        there.delete(path);
    }

    @Override
    public void move(String from, String to, boolean replacing) throws IOException {
        cross();
        there.move(from, to, replacing);
    }

    @Override
    public Room room() throws IOException {
        return there.room();
    }

    @Override
    public boolean lock(String path) throws IOException {
        cross();
        return there.lock(path);
    }

    @Override
    public void unlock(String path) throws IOException {
        cross();
        there.unlock(path);
    }

    @Override
    public CheckOutcome prove(String bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException {
        cross();
        return there.prove(bag, passphrase, level, watch);
    }

    @Override
    public PartsRead readParts(String bag, Passphrase passphrase, String imageJson, Watch watch) throws IOException {
        cross();
        return there.readParts(bag, passphrase, imageJson, watch);
    }
}
