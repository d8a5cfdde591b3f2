package app.granary.server.agent;

import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface AgentRowRepository extends JpaRepository<AgentRow, UUID> {
}
