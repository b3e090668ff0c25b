import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";

export const useCategories = () => useQuery(asks.categories());
