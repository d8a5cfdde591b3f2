package app.granary.engine.line;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.verify.PartsRead;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** A folder the office lends, for the computer it is lent to. Each call has a key, so that it can be told again and is done once. */
public final class LineFiles implements RemoteFiles {
    private final Carrier carrier;

    /** How the calls travel; it tells one again that was not answered. Safe for several threads. */
    public interface Carrier {
        byte[] read(String path, long at, int most) throws IOException;

        void write(String path, long at, byte[] bytes) throws IOException;

        /** @return what ended it: {@link Message.Done}, {@link Message.Refused} or {@link Message.NotDone} */
        Message ask(Message.Ask ask, Watch watch) throws IOException;
    }

    public LineFiles(Carrier carrier) {
        this.carrier = carrier;
    }

    /** What an end of another kind than {@link Message.Done} means to the caller. */
    public static IOException thrown(Message end) {
        if (end instanceof Message.Refused refused) {
            return refused.fault().asException();
        }
        if (end instanceof Message.NotDone not) {
            return switch (not.why()) {
                case MISSING -> new NoSuchFileException(not.path());
                case THERE_ALREADY -> new FileAlreadyExistsException(not.path());
                case NOT_EMPTY -> new DirectoryNotEmptyException(not.path());
            };
        }
        return new IOException("the office answered what was not asked");
    }

    private Object ask(String method, Object... arguments) throws IOException {
        Calls.Call call = Calls.of(Arrays.stream(RemoteFiles.class.getMethods()).filter(each -> each.getName().equals(method)).findFirst()
            .orElseThrow());
        Watch watch = Arrays.stream(arguments).filter(Watch.class::isInstance).map(Watch.class::cast).findFirst().orElse(Watch.NONE);
        Object[] told = Arrays.stream(arguments).map(each -> each instanceof Watch ? null : each).toArray();
        List<JsonNode> trees = LineJson.trees(Arrays.asList(told), call.types());
        Message end = carrier.ask(new Message.Ask(UUID.randomUUID(), Calls.FILES, "", call.name(), trees), watch);
        if (!(end instanceof Message.Done done)) {
            throw thrown(end);
        }
        return call.method().getReturnType() == void.class ? Boolean.TRUE : LineJson.value(done.result(), call.result());
    }

    @Override
    @SuppressWarnings("unchecked")
    public Optional<Entry> entry(String path) throws IOException {
        return (Optional<Entry>) ask("entry", path);
    }

    @Override
    @SuppressWarnings("unchecked")
    public List<String> names(String folder) throws IOException {
        return (List<String>) ask("names", folder);
    }

    @Override
    public byte[] read(String path, long at, int most) throws IOException {
        return carrier.read(path, at, most);
    }

    @Override
    public void open(String path, Open how) throws IOException {
        ask("open", path, how);
    }

    @Override
    public void write(String path, long at, byte[] bytes) throws IOException {
        carrier.write(path, at, bytes);
    }

    @Override
    public void truncate(String path, long bytes) throws IOException {
        ask("truncate", path, bytes);
    }

    @Override
    public void force(String path) throws IOException {
        ask("force", path);
    }

    @Override
    public void makeFolder(String path) throws IOException {
        ask("makeFolder", path);
    }

    @Override
    public void delete(String path) throws IOException {
        ask("delete", path);
    }

    @Override
    public void move(String from, String to, boolean replacing) throws IOException {
        ask("move", from, to, replacing);
    }

    @Override
    public Room room() throws IOException {
        return (Room) ask("room");
    }

    @Override
    public boolean lock(String path) throws IOException {
        return (Boolean) ask("lock", path);
    }

    @Override
    public void unlock(String path) throws IOException {
        ask("unlock", path);
    }

    @Override
    public CheckOutcome prove(String bag, Passphrase passphrase, ProofLevel level, Watch watch) throws IOException {
        return (CheckOutcome) ask("prove", bag, passphrase, level, watch);
    }

    @Override
    public PartsRead readParts(String bag, Passphrase passphrase, String imageJson, Watch watch) throws IOException {
        return (PartsRead) ask("readParts", bag, passphrase, imageJson, watch);
    }
}
