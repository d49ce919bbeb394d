import type { ReactNode } from "react";
import styled from "styled-components";
import { color } from "../ui/index.ts";

/** The address of a file, or of the small one of a picture. */
export const fileAddress = (id: number, small = false): string =>
  `/api/files/${id}${small ? "?small=true" : ""}`;

/** What is told of an item, beside its picture where it has one. */
export function WithPicture({ item, children }: { item: { thumbnail: number | null }; children: ReactNode }) {
  if (item.thumbnail === null) return <>{children}</>;
  return (
    <Beside>
      <Small src={fileAddress(item.thumbnail, true)} alt="" />
      <span>{children}</span>
    </Beside>
  );
}

/** The picture of an item in full, at the side of a sheet. */
export function Picture({ file, of }: { file: number; of: string }) {
  return <Large src={fileAddress(file)} alt={`Picture of ${of}`} />;
}

const Large = styled.img`
  float: right;
  max-width: 132px;
  max-height: 110px;
  margin: 0 0 8px 18px;
  border: 1px solid ${color.line};
`;

const Beside = styled.span`
  display: flex;
  align-items: center;
  gap: 10px;
`;

const Small = styled.img`
  width: 30px;
  height: 30px;
  object-fit: cover;
  border: 1px solid ${color.line};
  margin: -4px 0;
  flex: none;
`;
