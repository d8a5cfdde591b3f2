package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.remote.RemoteFiles;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/** What a computer lends to its office. An office that was started anew has forgotten what it had; that is found when it asks again. */
final class Loans implements LineLending {
    /** More than this an office has not in use at one computer; the oldest was forgotten. */
    private static final int MOST = 64;

    private final Lender lender;
    private final Map<String, Loan> lent = new LinkedHashMap<>();

    /** @param image whose it is when it is lent to be written; empty for others */
    private record Loan(Optional<ImageAt> image, Lender.Loan loan) {
    }

    Loans(Lender lender) {
        this.lender = lender;
    }

    @Override
    public synchronized Told lend(ImageAt image, Lender.Use use) throws IOException {
        if (use == Lender.Use.TO_WRITE) {
            List<String> forgotten = lent.entrySet().stream().filter(each -> each.getValue().image.filter(image::equals).isPresent())
                .map(Map.Entry::getKey).toList();
            for (String each : forgotten) {
                takeBack(each);
            }
        }
        return keep(use == Lender.Use.TO_WRITE ? Optional.of(image) : Optional.empty(), lender.lend(image, use));
    }

    @Override
    public synchronized Told lendRaw(String rawFileId) throws IOException {
        return keep(Optional.empty(), lender.lendRaw(rawFileId));
    }

    private Told keep(Optional<ImageAt> image, Lender.Loan loan) throws IOException {
        if (lent.size() >= MOST) {
            takeBack(lent.keySet().iterator().next());
        }
        String id = UUID.randomUUID().toString();
        lent.put(id, new Loan(image, loan));
        return new Told(id, loan.images(), loan.location());
    }

    @Override
    public synchronized void takeBack(String id) throws IOException {
        Loan gone = lent.remove(id);
        if (gone != null) {
            gone.loan.close();
        }
    }

    /** @throws app.granary.core.fault.FaultException when it is not lent any more */
    synchronized RemoteFiles files(String id) throws IOException {
        Loan found = lent.get(id);
        if (found == null) {
            throw Fault.of(Fault.Kind.STOPPED, "folder", "That folder is not lent any more. What had been written lies there unfinished, "
                + "and can be carried on.").asException();
        }
        return found.loan.files();
    }
}
