package app.granary.server.computer;

import app.granary.core.inventory.ComputerFacts;
import app.granary.server.destination.ComputerNames;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The computers in use, for those who write about them. */
@Service
public class ComputersOnRecord implements ComputerNames {
    private final ComputerRepository computers;
    private final Inventory inventory;

    ComputersOnRecord(ComputerRepository computers, Inventory inventory) {
        this.computers = computers;
        this.inventory = inventory;
    }

    /**
     * @param filesSavedOn when its files were last saved by other means; empty when nobody noted it
     * @param checks       what is looked at when it is back, besides what is looked at on every computer
     */
    public record ComputerOnRecord(UUID id, String name, String role, String owner, ComputerFacts facts, Optional<LocalDate> filesSavedOn,
        List<String> checks) {
        static ComputerOnRecord of(Computer c) {
            return new ComputerOnRecord(c.id(), c.name(), c.role(), c.owner(), c.facts(), Optional.ofNullable(c.filesSavedOn()),
                c.checks().lines().map(String::strip).filter(line -> !line.isEmpty()).distinct().toList());
        }
    }

    @Override
    @Transactional(readOnly = true)
    public Optional<String> id(String name) {
        return computers.findFirstByNameIgnoreCaseAndRetiredAtIsNull(name.strip()).map(computer -> computer.id().toString());
    }

    @Override
    @Transactional(readOnly = true)
    public Optional<String> name(String id) {
        try {
            return computers.findById(UUID.fromString(id)).map(Computer::name);
        } catch (IllegalArgumentException noId) {
            return Optional.empty();
        }
    }

    /** @param on when the files of a computer were saved by other means; null when that is not known any more */
    public void filesSaved(UUID id, LocalDate on, String how) {
        inventory.filesSaved(id, on, how);
    }

    /** In order of name. */
    @Transactional(readOnly = true)
    public List<ComputerOnRecord> all() {
        return computers.findAll().stream().filter(computer -> computer.retiredAt() == null).sorted(Comparator.comparing(Computer::name))
            .map(ComputerOnRecord::of)
            .toList();
    }
}
