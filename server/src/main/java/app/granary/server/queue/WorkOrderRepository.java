package app.granary.server.queue;

import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface WorkOrderRepository extends JpaRepository<WorkOrder, UUID> {
}
