import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";

export const useRooms = () => useQuery(asks.rooms());
export const useEquipment = () => useQuery(asks.equipment());
export const useFeatures = () => useQuery(asks.features());
