package app.granary.server.agent;

import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface NetworkRowRepository extends JpaRepository<NetworkRow, UUID> {
}
