import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Plain } from "../../shared/Plain";
import { chakra } from "@chakra-ui/react";
import type { VisitState } from "../../api/staff";
import { clockRange } from "../../shared/format";
import type { Block } from "./blocks";
import type { Scale } from "./scale";
import { tintOf } from "./tints";
import { shrinking } from "../../theme/book";

const Box = chakra("div");

/** The marks of a visit's state: shapes, so that colour is never needed. */
export const marks: Record<VisitState, { mark: string; word: string }> = {
  requested: { mark: "◇", word: t`requested` },
  confirmed: { mark: "○", word: t`confirmed` },
  arrived: { mark: "◐", word: t`arrived` },
  inTreatment: { mark: "●", word: t`in treatment` },
  done: { mark: "✓", word: t`done` },
  noShow: { mark: "✕", word: t`no-show` },
  cancelled: { mark: "✕", word: t`cancelled` },
};

type Props = {
  block: Block;
  zone: string;
  scale: Scale;
  tall: boolean;
  chosen: boolean;
  dim: boolean;
  onOpen: () => void;
};

/** One block; its label runs on over free time to its right, never over another block. */
export function BlockMark({ block, zone, scale, tall, chosen, dim, onOpen }: Props) {
  const { visit, line } = block;
  const name = `${visit.client.givenName} ${visit.client.familyName}`;
  const { mark, word } = marks[visit.state];
  const tint = tintOf(line.categoryId);
  // Units that share a lane lie closer together.
  const gap = block.height < 0.5 ? 0.5 : 2;
  const place = { top: `calc(${block.top * 100}% + ${gap}px)`, height: `calc(${block.height * 100}% - ${gap * 2}px)` };
  if (block.isOpen)
    return (
      <Box
        position="absolute"
        borderWidth="line"
        borderStyle="dashed"
        borderColor="edge"
        borderRadius="card"
        pointerEvents="none"
        opacity={dim ? 0.4 : 1}
        style={{ ...scale.span(block.from, block.until), ...place }}
      />
    );
  const whole = scale.span(block.from, block.until);
  const core = scale.span(block.coreFrom, block.coreUntil);
  const when = `${line.service}, ${clockRange(line.start, line.end, zone)}`;
  const standing = block.isClash ? `${word}, ${t`clash`}` : word;
  return (
    <>
      {/* The pale edge: buffers and turnaround. */}
      <Box
        position="absolute"
        bg={tint}
        opacity={dim ? 0.2 : 0.45}
        borderRadius="card"
        pointerEvents="none"
        style={{ ...whole, ...place }}
      />
      <Plain
        onClick={(event) => {
          event.stopPropagation();
          onOpen();
        }}
        data-visit={visit.reference}
        tabIndex={tall && block.isFirst ? 0 : -1}
        aria-label={[name, when, standing, ...(visit.client.alert ? [visit.client.alert] : [])].join(", ")}
        title={[name, when, standing, ...(visit.client.alert ? [`! ${visit.client.alert}`] : [])].join("\n")}
        position="absolute"
        bg={tint}
        borderWidth={block.height < 0.3 ? "0" : "line"}
        borderColor={chosen ? "kingcup" : block.isClash ? "clay" : "edge"}
        boxShadow={chosen ? "chosen" : undefined}
        borderRadius="card"
        cursor="pointer"
        textAlign="left"
        opacity={dim && !block.isClash ? 0.45 : 1}
        zIndex={chosen ? 5 : block.isClash ? 4 : 3}
        style={{ ...core, ...place }}
      >
        {block.isClash && <Notch />}
      </Plain>
      {block.isFirst && (block.height === 1 || tall) && (
        <Box
          aria-hidden
          position="absolute"
          pointerEvents="none"
          overflow="hidden"
          whiteSpace="nowrap"
          zIndex={chosen ? 6 : 4}
          fontSize="small"
          lineHeight={tall && !block.isClash ? "shorter" : "1"}
          containerType="inline-size"
          opacity={dim ? 0.55 : 1}
          style={{ ...scale.span(block.coreFrom, block.labelUntil), ...place }}
        >
          <Box h="100%" pl="1" pr="0.5" display="flex" flexDirection="column" justifyContent="center" css={shrinking}>
            <Box fontWeight="700">
              {tall && (
                <Box as="span" fontFamily="sans-serif">
                  {mark}{" "}
                </Box>
              )}
              {visit.client.alert && (
                <Box as="span" color="clay">
                  !{" "}
                </Box>
              )}
              <span data-name>
                {tall ? `${visit.client.givenName.slice(0, 1)}. ${visit.client.familyName}` : visit.client.familyName}
              </span>
              <span data-initials>
                {visit.client.givenName.slice(0, 1)}
                {visit.client.familyName.slice(0, 1)}
              </span>
              {visit.isFirst && tall && (
                <Box as="span" fontWeight="400" data-name>
                  {" · "}
                  <Trans>new</Trans>
                </Box>
              )}
            </Box>
            {tall && !block.isClash && <Box data-name>{line.service}</Box>}
          </Box>
        </Box>
      )}
    </>
  );
}

/** The clay notch of a claim that clashes. */
const Notch = () => (
  <Box
    as="span"
    aria-hidden
    position="absolute"
    top="0"
    right="0"
    w="3"
    h="3"
    bg="clay"
    borderTopRightRadius="card"
    clipPath="polygon(0 0, 100% 0, 100% 100%)"
  />
);
