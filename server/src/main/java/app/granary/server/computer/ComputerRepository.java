package app.granary.server.computer;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ComputerRepository extends JpaRepository<Computer, UUID> {
    Optional<Computer> findByHostId(String hostId);

    List<Computer> findAllByOrderByName();

    Optional<Computer> findFirstByNameIgnoreCaseAndRetiredAtIsNull(String name);
}
