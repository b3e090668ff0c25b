import { useQuery } from "@tanstack/react-query";
import { read, type Equipment, type Room } from "../../api/setup";

export const useRooms = () => useQuery({ queryKey: ["rooms"], queryFn: () => read<Room[]>("/setup/rooms") });
export const useEquipment = () =>
  useQuery({ queryKey: ["equipment"], queryFn: () => read<Equipment[]>("/setup/equipment") });
export const useFeatures = () => useQuery({ queryKey: ["features"], queryFn: () => read<string[]>("/setup/features") });
